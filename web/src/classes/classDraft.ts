import type { ClassView } from '@wunsch/contract';
import { useKept } from '../shell/useKept.ts';
import { localTime } from '../ui/localTime.ts';

/** A class as it is being planned: what stands in the fields, null where that makes no sense. */
export interface ClassDraft {
  title: string;
  /** Day and time as a field has them; empty until one is chosen. */
  date: string;
  minutes: number | null;
  places: number | null;
  price: number;
  /** `parcel:id` or `recipe:id`; empty until one is chosen. */
  base: string;
  mouldId: string;
  barMg: number | null;
  barsEach: number | null;
  /** Empty for the finest there is. */
  sugarId: string;
  /** As it was typed; null for what is usual with the base. */
  sweetness: string | null;
  flavours: readonly { ingredientId: string; percent: number | null }[];
  flavoursEach: number | null;
  show: readonly string[];
  scales: number | null;
  eachGuest: number;
  fixed: number;
  hours: number | null;
  note: string;
}

const NEW: ClassDraft = {
  title: '',
  date: '',
  minutes: 120,
  places: 8,
  price: 0,
  base: '',
  mouldId: '',
  barMg: 40_000,
  barsEach: 3,
  sugarId: '',
  sweetness: null,
  flavours: [],
  flavoursEach: 2,
  show: ['welcome', 'sort', 'winnow', 'grind', 'weigh', 'taste'],
  scales: 2,
  eachGuest: 0,
  fixed: 0,
  hours: 4,
  note: '',
};

const draftOf = (of: ClassView): ClassDraft => ({
  ...of,
  date: localTime(new Date(of.startsAt)),
  base: `${of.base.of}:${of.base.id}`,
  mouldId: of.mouldId ?? '',
  sweetness: of.sweetness.join(', '),
});

/** The draft of a class: kept on the device until it is sent, so that leaving for the recipe it asks for costs nothing. */
export function useClassDraft(of: ClassView | undefined): {
  draft: ClassDraft;
  set: <K extends keyof ClassDraft>(what: K) => (value: ClassDraft[K]) => void;
  /** Whether anything was changed. */
  isTouched: boolean;
  forget: () => void;
} {
  const [typed, setTyped, forget] = useKept<Partial<ClassDraft>>(
    of ? `class.${of.id}.${of.version}` : 'class.new',
  );
  return {
    draft: { ...(of ? draftOf(of) : NEW), ...typed },
    set: (what) => (value) => setTyped((now) => ({ ...now, [what]: value })),
    isTouched: typed !== null,
    forget,
  };
}
