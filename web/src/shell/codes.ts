import type { FindHit } from '@wunsch/contract';
import { codesMeant } from '@wunsch/core/mould';
import { plainText } from './plainText.ts';

/** What browsers that read codes by themselves offer. */
export interface CodeReader {
  detect: (source: CanvasImageSource) => Promise<{ rawValue: string }[]>;
}

/** Makes the browser’s reader of codes; null where it has none, or no camera may be asked for. */
export function codeReader(): CodeReader | null {
  const Reader = (globalThis as { BarcodeDetector?: new (options: { formats: string[] }) => CodeReader })
    .BarcodeDetector;
  if (!Reader || !navigator.mediaDevices?.getUserMedia) return null;
  try {
    return new Reader({ formats: ['qr_code', 'data_matrix'] });
  } catch {
    return null;
  }
}

/** What a label’s code says: the page of a batch, or a code as it stands on a bar, box, batch or sack. */
export function saidBy(text: string): { batchId: string } | { code: string } | null {
  const page = /\/batch\/([0-9a-f-]{36})\b/i.exec(text);
  if (page) return { batchId: page[1]!.toLowerCase() };
  const bar = /^https?:\/\/[^/]+\/bar\/([^/?#]+)/i.exec(text.trim());
  const code = bar ? plainText(bar[1]!) : text.trim();
  return /^[\p{L}\p{N}][\p{L}\p{N} ._/-]{1,59}$/u.test(code) ? { code } : null;
}

/** The thing a code stands on: exactly what it says, or the batch it begins with; null where nothing is called so. */
export async function thingOf(
  text: string,
  read: <T>(path: string) => Promise<T>,
): Promise<Pick<FindHit, 'kind' | 'id' | 'path'> | null> {
  const said = saidBy(text);
  if (!said) return null;
  if ('batchId' in said) return { kind: 'batch', id: said.batchId, path: `/batch/${said.batchId}` };
  for (const code of codesMeant(said.code)) {
    const hits = await read<FindHit[]>(`/api/find?q=${encodeURIComponent(code)}`).catch(() => []);
    const hit = hits.find((h) => h.kind !== 'note' && h.title.toLowerCase() === code.toLowerCase());
    if (hit) return hit;
  }
  return null;
}
