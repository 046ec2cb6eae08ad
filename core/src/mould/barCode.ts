import { requireWhole } from '../numerics/index.ts';

/** Letters of the `part`-th part: none of the first, then B … Z, AA, AB …, as columns of a sheet go on. */
function lettersOf(part: number): string {
  if (part === 1) return '';
  let letters = '';
  for (let rest = part; rest > 0; rest = Math.floor((rest - 1) / 26))
    letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  return letters;
}

/**
 * Code printed on a bar: its batch, a letter where several parts were moulded from one batch, and the day of moulding.
 *
 * @param batchCode as the batch is called, such as `NKO-14`
 * @param part which moulding of the batch it is, from 1
 * @param madeOn ISO `YYYY-MM-DD`
 * @throws RangeError for no batch's code, a part that is not whole and ≥ 1, or a day that is not written as one
 * @example barCode('NKO-14', 2, '2026-11-02') // 'NKO-14B-261102'
 */
export function barCode(batchCode: string, part: number, madeOn: string): string {
  if (batchCode.trim() === '') throw new RangeError('the code of the batch must not be empty');
  requireWhole(part, 'the part', 1);
  if (!/^\d{4}-\d{2}-\d{2}$/.test(madeOn)) throw new RangeError(`"${madeOn}" is not a date like 2026-10-02`);
  return `${batchCode}${lettersOf(part)}-${madeOn.slice(2).replaceAll('-', '')}`;
}

/**
 * What a code may mean, most exact first: itself; without the day of moulding the batch it was printed for; and without the letter of its
 * part the batch all parts are of.
 *
 * @example codesMeant('NKO-14B-261102') // ['NKO-14B-261102', 'NKO-14B', 'NKO-14']
 */
export function codesMeant(code: string): string[] {
  const batch = /^(.+)-\d{6}$/.exec(code)?.[1];
  if (batch === undefined) return [code];
  const whole = /^(.*\d)[A-Z]{1,2}$/i.exec(batch)?.[1];
  return [code, batch, ...(whole === undefined ? [] : [whole])];
}
