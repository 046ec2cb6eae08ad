import { X509Certificate } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';

/** A key and the certificate that goes with it, PEM. */
export interface Certificate {
  key: string;
  cert: string;
  /** SHA-256 of the certificate, to compare with what a browser shows. */
  fingerprint: string;
}

/** How long a certificate made here lasts, and how long before its end it is made anew, days: phones take no longer ones. */
const LASTS = 820;
const RENEW_BEFORE = 30;

/** Most addresses one certificate speaks for, the latest first. */
const MOST_ADDRESSES = 12;

const DAY = 86_400_000;

/** IPv4 addresses of this machine in its networks. */
export function ownAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter((a) => a.family === 'IPv4' && !a.internal)
    .map((a) => a.address);
}

/** A certificate from two files. @throws Error with the path of one that cannot be read */
export async function certificateFrom(keyPath: string, certPath: string): Promise<Certificate> {
  const [key, cert] = [await readFile(keyPath, 'utf8'), await readFile(certPath, 'utf8')];
  return { key, cert, fingerprint: new X509Certificate(cert).fingerprint256 };
}

/**
 * The certificate of a data directory, made at its first use, and anew when it runs out or the machine has an address in its networks that it
 * does not speak for. A browser asks once whether to trust it.
 */
export async function ownCertificate(
  directory: string,
  addresses: readonly string[] = ownAddresses(),
): Promise<Certificate> {
  let before: string[] = [];
  const folder = join(directory, 'certificate');
  const [keyPath, certPath] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
  if (existsSync(keyPath) && existsSync(certPath)) {
    const kept = await certificateFrom(keyPath, certPath);
    const x509 = new X509Certificate(kept.cert);
    const lasts = Date.parse(x509.validTo) - Date.now() > RENEW_BEFORE * DAY;
    if (lasts && addresses.slice(0, MOST_ADDRESSES - 1).every((ip) => x509.checkIP(ip))) return kept;
    // What it spoke for stays, so that a network that comes and goes does not make one at every start.
    before = [...(x509.subjectAltName ?? '').matchAll(/IP Address:([\d.]+)/g)].map(([, ip]) => ip!);
  }
  const name = hostname();
  const spokenFor = [...new Set(['127.0.0.1', ...addresses, ...before])].slice(0, MOST_ADDRESSES);
  // Few workshops need it, and none twice a year.
  const { generate } = await import('selfsigned');
  const made = await generate([{ name: 'commonName', value: `Wunsch on ${name}` }], {
    keySize: 2048,
    algorithm: 'sha256',
    notAfterDate: new Date(Date.now() + LASTS * DAY),
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, keyEncipherment: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          ...['localhost', name, `${name}.local`].map((value) => ({ type: 2 as const, value })),
          ...spokenFor.map((ip) => ({ type: 7 as const, ip })),
        ],
      },
    ],
  });
  await mkdir(folder, { recursive: true, mode: 0o700 });
  await writeFile(keyPath, made.private, { mode: 0o600 });
  await writeFile(certPath, made.cert, { mode: 0o600 });
  return certificateFrom(keyPath, certPath);
}
