import type { Glass, SessionKey, TastingSession } from '@wunsch/contract';
import type { Sheet } from '@wunsch/core/print';
import {
  ringsOf,
  STRIP_SECONDS,
  SWALLOW_SECONDS,
  type Dominance,
  rowsOf,
  openedSession,
  analyseSession,
  answerWords,
  notToldApart,
  type Teller,
} from '@wunsch/core/taste';
import type { SessionResults } from '@wunsch/contract';
import { press } from '../mould/index.ts';

/** What a card on paper asks, from least to most. */
const ASKED = ['sour', 'grit', 'liking'] as const;

/** Cards on paper, one sheet a seat: the codes in its order, and for each mark eleven boxes to tick. Nothing on it tells what is in a glass. */
export async function paperCards(
  session: TastingSession,
  seats: readonly { name: string; glasses: readonly Glass[] }[],
  teller: Teller,
): Promise<Uint8Array> {
  const { t } = teller;
  const { print, type } = await press();
  const sheet = await print.Sheet.begin(type, session.title);
  seats.forEach(({ name, glasses }, i) => {
    if (i > 0) sheet.nextPage();
    sheet.text(session.title, { sizePt: 16, bold: true });
    sheet.text(`${name || t('panel.seat.n', { n: i + 1 })} · ${t('panel.n', { n: session.number })}`, {
      ink: 'grey',
    });
    sheet.text(t('panel.water', { n: session.flight }), { sizePt: 9, ink: 'grey' });
    sheet.space(3);
    if (session.question === 'different') {
      for (let round = 1; round <= session.rounds; round += 1) {
        const served = glasses.filter((g) => g.round === round);
        sheet.room(34);
        sheet.text(
          session.test === 'triangle'
            ? t('panel.choose.triangle')
            : t('panel.choose.duo-trio', { reference: served[0]?.code ?? '' }),
        );
        sheet.space(3);
        (session.test === 'duo-trio' ? served.slice(1) : served).forEach((g, k) => {
          sheet.box(k * 40, sheet.yMm, 7, 7, null, 'ink');
          sheet.at(g.code, k * 40 + 10, sheet.yMm + 6, { sizePt: 18, bold: true });
        });
        sheet.space(16);
      }
      return;
    }
    for (const g of glasses) {
      sheet.room(34);
      sheet.rule();
      sheet.space(2);
      const top = sheet.yMm;
      sheet.at(g.code, 0, top + 8, { sizePt: 22, bold: true });
      sheet.at(`${t('panel.key.round')} ${g.round}`, 0, top + 14, { sizePt: 8.5, ink: 'grey' });
      ASKED.forEach((mark, row) => {
        const y = top + row * 9;
        sheet.at(teller.word('mark', mark), 36, y + 5, { sizePt: 9.5 });
        for (let score = 0; score <= 10; score += 1) {
          const x = 66 + score * 10;
          sheet.box(x, y, 7.5, 7, null, 'grey');
          sheet.at(String(score), x + 3.75, y + 4.8, { sizePt: 8.5, ink: 'grey' }, 'middle');
        }
      });
      sheet.space(30);
    }
  });
  return sheet.save();
}

/** How the table is set, for whoever pours: seat by seat and round by round, code and sample in order. */
export async function runSheet(session: TastingSession, key: SessionKey, { t }: Teller): Promise<Uint8Array> {
  const { print, type } = await press();
  const sheet = await print.Sheet.begin(type, session.title);
  sheet.text(session.title, { sizePt: 16, bold: true });
  sheet.text(t('panel.key.text'), { ink: 'grey' });
  sheet.space(3);
  const head = [t('panel.key.seat'), t('panel.key.round'), t('panel.key.order')];
  const parts = [3, 2, 12];
  sheet.row(
    head.map((text, i) => ({ text, part: parts[i]!, bold: true })),
    { sizePt: 8.5 },
  );
  for (const { name, round, codes, labels } of key.seats)
    sheet.row([
      { text: name, part: 3, bold: true },
      { text: String(round), part: 2 },
      {
        text: codes.map((c, i) => `${c}\u00a0${labels[i]!.replaceAll(' ', '\u00a0')}`).join('   '),
        part: 12,
      },
    ]);
  return sheet.save();
}

/** An opened session on paper: the sentence that answers its question, the picture that carries it, then everything else. */
export async function sessionReport(
  results: SessionResults,
  teller: Teller,
  day: (iso: string) => string,
): Promise<Uint8Array> {
  const { t, number } = teller;
  const { session, cards } = results;
  const opened = openedSession(session, cards, results.renames);
  const analysis = analyseSession(opened);
  const names = new Map(session.samples.map((s) => [s.id, s.label]));
  const nameOf = (id: string) => names.get(id) ?? id;
  const told = answerWords(analysis.answer, session, nameOf, teller);
  const { print, type } = await press();
  const sheet = await print.Sheet.begin(type, session.title);
  sheet.text(session.title, { sizePt: 20, bold: true });
  sheet.text(
    [
      t('panel.n', { n: session.number }),
      t(`panel.question.${session.question}`),
      t('panel.tasters.n', { n: session.seats.filter((s) => s.done > 0).length }),
      t('panel.rounds.n', { n: session.rounds }),
      session.place,
      session.openedAt ? t('panel.opened.when', { when: day(session.openedAt) }) : '',
    ]
      .filter(Boolean)
      .join(', '),
    { sizePt: 9.5, ink: 'grey' },
  );
  sheet.space(4);
  sheet.text(told.head, { sizePt: 15, bold: true });
  for (const line of told.lines) sheet.text(line, { sizePt: 11 });
  const back = cards.filter((c) => c.nth > 1).length;
  if (back > 0) sheet.text(t('panel.results.back', { n: back }), { sizePt: 9, ink: 'grey' });
  const liking = analysis.attributes.find((a) => a.attribute === 'liking')?.result;
  if (liking?.ok) {
    sheet.space(5);
    heading(sheet, t('panel.results.liking'));
    drawScale(
      sheet,
      liking.samples.map((s) => ({ ...s, name: nameOf(s.sample) })),
      ringsOf(rowsOf(opened.scores, 'liking'), liking.levels),
      notToldApart(liking.samples, liking.differences),
      teller,
    );
    sheet.text(t('panel.results.liking.note'), { sizePt: 8.5, ink: 'grey' });
  }
  const strips = session.samples.filter((x) => (analysis.strips[x.id]?.strips ?? 0) > 0);
  if (strips.length > 0) {
    sheet.space(5);
    heading(sheet, t('panel.results.strips'));
    for (const { id, label } of strips) drawStrips(sheet, label, analysis.strips[id]!, teller);
    const level = Math.max(...strips.map((x) => analysis.strips[x.id]!.level));
    const n = Math.max(...strips.map((x) => analysis.strips[x.id]!.strips));
    sheet.text(t('panel.results.strip.note', { n, level: teller.percent(level, 0) }), {
      sizePt: 8.5,
      ink: 'grey',
    });
  }
  const reckoned = analysis.attributes.flatMap(({ attribute, result }) =>
    result.ok ? [{ attribute, result }] : [],
  );
  if (reckoned.length > 0) {
    sheet.space(5);
    heading(sheet, t('panel.results.marks'));
    sheet.row(sampleHead(session), { sizePt: 8.5 });
    for (const { attribute, result } of reckoned)
      sheet.row([
        { text: teller.word('mark', attribute), part: 3 },
        ...session.samples.map((s) => {
          const level = result.samples.find((x) => x.sample === s.id);
          return { text: level ? number(level.estimate, 1) : '—', part: 3, right: true };
        }),
        {
          text:
            result.differences
              .filter((d) => d.decided)
              .map((d) => `${nameOf(d.a)} > ${nameOf(d.b)}`)
              .join(', ') || t('panel.results.apart'),
          part: 6,
        },
      ]);
  }
  if (analysis.notes.length > 0) {
    sheet.space(5);
    heading(sheet, t('panel.results.notes'));
    sheet.row(sampleHead(session), { sizePt: 8.5 });
    for (const n of analysis.notes.slice(0, 12))
      sheet.row([
        { text: n.note, part: 3 },
        ...session.samples.map((s) => ({
          text: teller.percent(n.shares[s.id] ?? 0, 0),
          part: 3,
          right: true,
        })),
        {
          text: n.decided
            ? t('panel.results.notes.differs', { p: number(n.adjusted, 3) })
            : t('panel.results.notes.open'),
          part: 6,
        },
      ]);
    sheet.text(t('panel.results.notes.note'), { sizePt: 8.5, ink: 'grey' });
  }
  if (analysis.assessors.length > 0) {
    sheet.space(5);
    heading(sheet, t('panel.results.scale'));
    for (const a of analysis.assessors) {
      sheet.room(8);
      const y = sheet.yMm;
      sheet.at(a.assessor, 0, y + 4.5, { sizePt: 9.5, bold: true });
      sheet.line(40, y + 3.2, 110, y + 3.2, 'grey', 0.15);
      sheet.box(40 + a.low * 7, y + 2.2, Math.max(0.8, (a.high - a.low) * 7), 2, 'violet');
      const again = a.repeat === null ? '' : `, ${t('panel.use.again', { sd: number(a.repeat, 1) })}`;
      sheet.at(`${t(`panel.use.${a.word}`)}${again}`, 115, y + 4.5, { sizePt: 9 });
      sheet.space(7);
    }
  }
  return sheet.save();
}

function heading(sheet: Sheet, text: string): void {
  sheet.room(30);
  sheet.text(text, { sizePt: 12, bold: true });
  sheet.space(1.5);
}

/** Samples on one scale with their bars, a ring for each taster, and brackets over what cannot be told apart. */
function drawScale(
  sheet: Sheet,
  samples: readonly { sample: string; name: string; estimate: number; compare: number }[],
  rings: readonly { sample: string; score: number }[],
  brackets: readonly (readonly string[])[],
  { number }: Teller,
): void {
  const rowMm = 14;
  sheet.room(samples.length * rowMm + 12);
  const top = sheet.yMm;
  const all = [
    ...samples.flatMap((s) => [s.estimate - s.compare, s.estimate + s.compare]),
    ...rings.map((r) => r.score),
  ];
  const low = Math.max(0, Math.floor(Math.min(...all)));
  const high = Math.min(10, Math.max(low + 2, Math.ceil(Math.max(...all))));
  const x = (score: number) => 45 + ((Math.min(high, Math.max(low, score)) - low) / (high - low)) * 110;
  for (let tick = low; tick <= high; tick += 1) {
    sheet.line(x(tick), top, x(tick), top + samples.length * rowMm, 'grey', 0.1);
    sheet.at(number(tick), x(tick), top + samples.length * rowMm + 4, { sizePt: 8.5, ink: 'grey' }, 'middle');
  }
  samples.forEach((s, i) => {
    const y = top + i * rowMm + 6;
    sheet.at(s.name, 0, y + 1.5, { sizePt: 10, bold: true });
    sheet.box(
      x(s.estimate - s.compare),
      y - 2,
      x(s.estimate + s.compare) - x(s.estimate - s.compare),
      4,
      'tint',
      'violet',
    );
    sheet.box(x(s.estimate) - 0.6, y - 3, 1.2, 6, 'violet');
    sheet.at(number(s.estimate, 1), x(s.estimate), y - 3.6, { sizePt: 9, bold: true }, 'middle');
    for (const r of rings) if (r.sample === s.sample) sheet.ring(x(r.score), y + 4.4, 0.8);
  });
  brackets.forEach((bracket, b) => {
    const rows = samples.flatMap((s, i) => (bracket.includes(s.sample) ? [i] : []));
    const [from, to] = [top + Math.min(...rows) * rowMm + 3, top + Math.max(...rows) * rowMm + 9];
    const bx = 161 + b * 4;
    sheet.line(bx, from, bx + 2, from);
    sheet.line(bx + 2, from, bx + 2, to);
    sheet.line(bx, to, bx + 2, to);
  });
  sheet.space(samples.length * rowMm + 7);
}

/** The names of the samples over their columns. */
function sampleHead({ samples }: TastingSession) {
  return [
    { text: '', part: 3 },
    ...samples.map((s) => ({ text: s.label, part: 3, right: true, bold: true })),
    { text: '', part: 6 },
  ];
}

/** A panel’s strips together: each note as thick as the share that felt it foremost, with a line under what is more than chance. */
function drawStrips(sheet: Sheet, label: string, { curves }: Dominance, { t, word }: Teller): void {
  const laneMm = 6.5;
  const peak = (c: Dominance['curves'][number]) => Math.max(...c.share);
  const drawn = curves.filter((c) => peak(c) >= 0.1).slice(0, 8);
  sheet.room(drawn.length * laneMm + 12);
  const top = sheet.yMm + 5;
  const x = (s: number) => 30 + (s / STRIP_SECONDS) * 110;
  sheet.at(label, 0, top + 4, { sizePt: 9.5, bold: true });
  sheet.at(t('panel.results.first'), x(0), top - 1, { sizePt: 8, ink: 'grey' });
  sheet.at(t('panel.results.swallowed'), x(SWALLOW_SECONDS), top - 1, { sizePt: 8, ink: 'grey' }, 'middle');
  sheet.at(t('panel.results.last'), x(STRIP_SECONDS), top - 1, { sizePt: 8, ink: 'grey' }, 'end');
  sheet.line(x(SWALLOW_SECONDS), top, x(SWALLOW_SECONDS), top + drawn.length * laneMm, 'violet');
  drawn.forEach(({ note, share, significant }, i) => {
    const y = top + (i + 0.5) * laneMm;
    for (let s = 0; s < STRIP_SECONDS; s += 2) {
      const height = share[s]! * (laneMm - 1.5);
      if (height > 0) sheet.box(x(s), y - height / 2, x(2) - x(0) + 0.05, height, 'violet');
    }
    for (const { from, to } of significant)
      sheet.line(x(from), y + laneMm / 2 - 0.4, x(to), y + laneMm / 2 - 0.4, 'ink', 0.4);
    sheet.at(word('note', note), 143, y + 1.2, { sizePt: 9 });
  });
  sheet.yMm = top + drawn.length * laneMm + 3;
}
