import { STATIONS, type Station } from '../ledger/index.ts';

/** What somebody can be signed off at: each station, and packing, which is done where bars are moulded by people who do not mould yet. */
export type Skill = Station | 'wrap';

/** Every {@link Skill}, in the order of the work. */
export const SKILLS: readonly [Skill, ...Skill[]] = [
  'beans',
  ...STATIONS.slice(1).flatMap((s): Skill[] => (s === 'mould' ? ['mould', 'wrap'] : [s])),
];

/** The skill a kind of work, or a stage of the plan, takes at its station. */
export const skillOf = (work: string, station: Station): Skill => (work === 'wrap' ? 'wrap' : station);

/** Whether being signed off at one skill is enough for another: who moulds may pack. */
export const covers = (signed: Skill, asked: Skill): boolean =>
  signed === asked || (asked === 'wrap' && signed === 'mould');
