import type { PlanRoomView } from '@wunsch/contract';
import { PURGE_SHARE } from '@wunsch/core/grind';
import { CABINET, REST_SHELF, type PlannedStep } from '@wunsch/core/plan';
import type { Words } from '../words/words.tsx';

/** What an order, a class or a stock aim is called. */
export function orderName(room: PlanRoomView, orderId: string, t: Words['t']): string {
  const order = room.allOrders.find((o) => o.id === orderId);
  if (order) {
    const customer = room.customers.find((c) => c.id === order.customerId);
    return order.title || customer?.name || t('plan.order.n', { n: order.number });
  }
  const taught = room.classes.find((c) => c.id === orderId);
  if (taught) return taught.title;
  const [aimId] = orderId.split(':');
  const aim = room.aims.find((a) => a.id === aimId);
  const recipe = room.recipes.find((r) => r.id === aim?.recipeId);
  return recipe ? t('plan.shelf.of', { name: recipe.name }) : t('plan.shelf');
}

/** What a person or a machine is called. */
export function whoName(room: PlanRoomView, id: string | null): string {
  if (id === null) return '';
  return (
    room.people.find((p) => p.id === id)?.name ??
    room.machines.find((m) => m.id === id)?.name ??
    room.moulds.find((m) => `mould:${m.id}` === id)?.name ??
    ''
  );
}

/** What places are called that are counted together; null for a person, a machine or a mould. */
export function placeName(id: string, t: Words['t']): string | null {
  if (id === CABINET) return t('plan.cabinet');
  return id === REST_SHELF ? t('plan.rest-shelf') : null;
}

/** What its machine wants before a step, after what, and who does it; nothing where it wants nothing. */
export function setUpWords(
  { setUp, massMg }: Pick<PlannedStep, 'setUp' | 'massMg'>,
  machine: string,
  words: Pick<Words, 't' | 'mass' | 'number' | 'time' | 'when'>,
  person: (id: string) => string = () => '',
): string {
  if (!setUp) return '';
  const { t } = words;
  const what = t(`plan.set-up.${setUp.kind}`, {
    machine,
    minutes: words.number(setUp.minutes, 0),
    mass: words.mass(Math.round((massMg * PURGE_SHARE) / 50_000) * 50_000),
  });
  const { hands } = setUp;
  const by =
    hands === null
      ? t('plan.set-up.nobody')
      : hands && person(hands.personId) !== ''
        ? t('plan.set-up.by', {
            who: person(hands.personId),
            from: words.when(hands.start),
            to: words.time(hands.end),
          })
        : '';
  const after = setUp.after === null ? '' : t('plan.set-up.after', { code: setUp.after });
  const more = [after, by].filter(Boolean).join('; ');
  return more === '' ? what : `${what}: ${more}`;
}

/** A day in few letters, `Thu 26`, with its month where that helps; of the day itself, whatever the clock here says. */
export function dayName(day: string, { language }: Words, withMonth = false): string {
  const tag = language === 'de' ? 'de-DE' : 'en-GB';
  const at = new Date(`${day}T12:00:00Z`);
  const part = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(tag, { ...options, timeZone: 'UTC' }).format(at).replace(/\.$/, '');
  return [
    part({ weekday: 'short' }),
    part({ day: 'numeric' }),
    ...(withMonth ? [part({ month: 'short' })] : []),
  ].join(' ');
}

/** A time as days, with a decimal where they are few. */
export function daysWords(ms: number, words: Words): string {
  const days = ms / 86_400_000;
  return words.t('plan.days', { n: Math.round(days * 10) / 10, days: words.number(days, days < 2 ? 1 : 0) });
}
