import { createContext, useCallback, useContext } from 'react';
import { v7 } from 'uuid';
import { ApiProblem } from './api.ts';
import { useDoor } from './door.tsx';
import type { Outcome } from './outbox.ts';

/** An entry a person makes. */
export interface Entry {
  path: string;
  body: unknown;
  /** What was done, shown in the toast and in the list of waiting entries. */
  label: string;
  batchId?: string | null;
  ifMatch?: number;
  /** Offer to take it back. */
  undo?: boolean;
  quiet?: boolean;
}

/** Shows a line at the foot of the screen, with an action. */
export interface Notice {
  text: string;
  tone: 'done' | 'bad' | 'waiting';
  action?: { label: string; run: () => void };
}

/** Where notices go; given by the toaster. */
export const NoticeContext = createContext<(notice: Notice) => void>(() => undefined);

/** Takes the element of the layout in which notices stand; given by the toaster. */
export const NoticePlaceContext = createContext<(place: HTMLElement | null) => void>(() => undefined);

/** Turns a refusal into words of the page's language; given by the words. */
export type Explain = (error: unknown) => string;

/** A fresh id for something about to be made. */
export const newId = (): string => v7();

/** Makes entries through the outbox, tells of them, and offers undo. Rejects with the server's problem. */
export function useEntry(words: {
  undo: string;
  undone: string;
  waiting: string;
  explain: Explain;
}): (entry: Entry) => Promise<Outcome> {
  const notify = useContext(NoticeContext);
  const { outbox } = useDoor();
  return useCallback(
    async ({ path, body, label, batchId = null, ifMatch, undo = false, quiet = false }: Entry) => {
      try {
        const outcome = await outbox.send({ method: 'PUT', path, body, label, batchId, ifMatch });
        if (outcome.waiting) notify({ text: `${label}. ${words.waiting}`, tone: 'waiting' });
        else if (!quiet) {
          const takeBack = () => {
            outbox
              .send({
                method: 'PUT',
                path: `/api/undos/${v7()}`,
                body: { seq: outcome.seq },
                label: words.undo,
                batchId,
              })
              .then(() => notify({ text: words.undone, tone: 'done' }))
              .catch((error: unknown) => notify({ text: words.explain(error), tone: 'bad' }));
          };
          notify({
            text: label,
            tone: 'done',
            ...(undo && { action: { label: words.undo, run: takeBack } }),
          });
        }
        return outcome;
      } catch (error) {
        if (!(error instanceof ApiProblem)) throw error;
        notify({ text: words.explain(error), tone: 'bad' });
        throw error;
      }
    },
    [notify, words, outbox],
  );
}
