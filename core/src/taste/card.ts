/** The five basics, each judged by strength and by fit. */
export const BASICS = ['sweet', 'bitter', 'sour', 'salty', 'astringent'] as const;

/** One basic. */
export type Basic = (typeof BASICS)[number];

/** Texture marks, 0 none to 10 very much. */
export const TEXTURES = ['grit', 'melt', 'coating', 'drying'] as const;

/** One texture mark. */
export type Texture = (typeof TEXTURES)[number];

/** Faults with the words tasters use. */
export const FAULTS = ['smoke', 'ham', 'mould', 'sour', 'husk', 'stale', 'soap'] as const;

/** One fault. */
export type Fault = (typeof FAULTS)[number];

/** How a basic sits. */
export type Fit = 'too little' | 'right' | 'too much';

/** A note laid on the tasting strip: when it comes and goes, and how strong it is. */
export interface Stroke {
  note: string;
  /** Seconds from the first melt; the strip runs 0–120, with swallowing marked on it. */
  from: number;
  to: number;
  /** 1 faint to 5 commanding. */
  strength: number;
}

/** Length of the tasting strip, s: from the first melt to a minute after swallowing. */
export const STRIP_SECONDS = 120;

/** Where swallowing falls on the strip unless the taster moves it, s. */
export const SWALLOW_SECONDS = 60;

/** Plain families and notes to start from; the list is the workshop's own to edit. */
export const STARTER_NOTES: Readonly<Record<string, readonly string[]>> = {
  fruit: ['berry', 'citrus', 'stone fruit', 'dried fruit', 'banana'],
  'nut and grain': ['almond', 'hazelnut', 'toast', 'malt', 'bread'],
  sweet: ['honey', 'caramel', 'molasses', 'cream'],
  plant: ['flower', 'grass', 'tea', 'tobacco', 'wood'],
  'spice and earth': ['pepper', 'clove', 'earth', 'mushroom', 'leather'],
  cacao: ['cocoa', 'fudge', 'roast', 'coffee'],
};

/** One step of dominance: the note that leads between two moments, null where nothing is felt. */
export interface Lead {
  note: string | null;
  from: number;
  to: number;
}

/**
 * Which note leads when, from overlapping strokes: the strongest at each moment, the later start winning
 * a tie, as attention goes to what is new (temporal dominance; Pineau et al., 2009).
 */
export function leadingNotes(strokes: readonly Stroke[]): Lead[] {
  const edges = [...new Set(strokes.flatMap((s) => [s.from, s.to]))].sort((a, b) => a - b);
  const leads: Lead[] = [];
  edges.slice(0, -1).forEach((from, i) => {
    const to = edges[i + 1]!;
    const felt = strokes.filter((s) => s.from <= from && s.to >= to);
    const best = felt.reduce<Stroke | null>(
      (b, s) => (!b || s.strength > b.strength || (s.strength === b.strength && s.from > b.from) ? s : b),
      null,
    );
    const last = leads.at(-1);
    if (last && last.note === (best?.note ?? null)) last.to = to;
    else leads.push({ note: best?.note ?? null, from, to });
  });
  return leads;
}
