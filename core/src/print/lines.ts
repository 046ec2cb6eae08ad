/**
 * Text broken into lines: between words, and within one that is longer than a line, after a hyphen or stroke where it has one. Spaces that do not break
 * are left alone, so that a number is not parted from its unit.
 *
 * @param fits whether a text fits on a line; of a longer one not if of a shorter one not
 * @returns at least one character a line, even where none fits; none for a text of nothing but space
 */
export function brokenLines(text: string, fits: (line: string) => boolean): string[] {
  const lines: string[] = [];
  for (const word of text.split(/[ \t\r\n]+/).filter(Boolean)) {
    const last = lines.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && fits(longer)) lines[lines.length - 1] = longer;
    else lines.push(...inPieces(word, fits));
  }
  return lines;
}

/** A word in pieces that fit. */
function inPieces(word: string, fits: (text: string) => boolean): string[] {
  const pieces: string[] = [];
  let rest = [...word];
  while (rest.length > 1 && !fits(rest.join(''))) {
    const most = Math.max(
      1,
      rest.findIndex((_, k) => !fits(rest.slice(0, k + 1).join(''))),
    );
    const hyphen = rest.slice(0, most).findLastIndex((c) => '-/'.includes(c));
    const cut = hyphen >= 0 ? hyphen + 1 : most;
    pieces.push(rest.slice(0, cut).join(''));
    rest = rest.slice(cut);
  }
  return [...pieces, rest.join('')];
}
