import { z } from 'zod';
import { RUN_FAULTS, SKILLS } from '@wunsch/core/skills';
import { Id, StationName } from './common.ts';
import { Level, SKILLS_PRACTISED } from './practice.ts';
import { StepKindName } from './steps.ts';

/** Signing somebody off at a station, or at packing: they may work there alone. */
export const SkillSign = z.object({ personId: Id, station: z.enum(SKILLS) });
/** See {@link SkillSign}. */
export type SkillSign = z.infer<typeof SkillSign>;

/** Stations whose caution a person has read. */
export const CautionRead = z.object({ station: StationName });
/** See {@link CautionRead}. */
export type CautionRead = z.infer<typeof CautionRead>;

/** Who may work where alone, and how they have practised. */
export const SkillsView = z.object({
  signed: z.array(
    z.object({
      id: Id,
      personId: Id,
      station: z.string(),
      at: z.string(),
      by: z.string(),
    }),
  ),
  /** The best score of each person at each lesson and level. */
  practised: z.array(
    z.object({
      personId: Id,
      lesson: z.enum(SKILLS_PRACTISED),
      level: Level,
      points: z.int(),
      times: z.int(),
    }),
  ),
});
/** See {@link SkillsView}. */
export type SkillsView = z.infer<typeof SkillsView>;

/** How the last runs of somebody at a skill went. */
const RunSums = z.object({
  personId: Id,
  skill: z.enum(SKILLS),
  lastAt: z.string(),
  /** Found good, found wanting, not looked at, and done where nothing measured could tell. */
  good: z.int(),
  wanting: z.int(),
  unseen: z.int(),
  done: z.int(),
});

/** What everybody has done. */
export const RunsView = z.array(RunSums);
/** See {@link RunsView}. */
export type RunsView = z.infer<typeof RunsView>;

/** What one person has done, with the last runs, latest first. */
export const PersonRuns = z.object({
  /** With all there ever were. */
  sums: z.array(RunSums.extend({ runs: z.int() })),
  latest: z.array(
    z.object({
      stepId: Id,
      batchId: Id.nullable(),
      batchCode: z.string().nullable(),
      skill: z.enum(SKILLS),
      kind: StepKindName,
      at: z.string(),
      /** Null where nobody looked, or nothing measured could tell. */
      good: z.boolean().nullable(),
      faults: z.array(z.enum(RUN_FAULTS)),
    }),
  ),
});
/** See {@link PersonRuns}. */
export type PersonRuns = z.infer<typeof PersonRuns>;
