import { screen } from '@testing-library/react';
import type { PlanRoomView } from '@wunsch/contract';
import { NoPlan, NothingToMakeOf } from '@wunsch/core/plan';
import { show } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { Impossible } from './Impossible.tsx';

const room = {
  batches: [{ id: idOf(7), code: 'TL-16' }],
  recipes: [{ id: 'dark', name: 'Dark 70' }],
  lots: [{ id: 'nk', code: 'NKO' }],
} as unknown as PlanRoomView;

/** A refusal as it comes out of the thread it was thrown on: name and message only. */
const refusal = (message: string) => Object.assign(new Error(message), { name: 'NoPlan' });
const said = () => screen.getByRole('alert').textContent;

test('steps that find no time are called what people call them, each once, the rest by number', () => {
  const keys = [
    ...[1, 2, 3].map((part) => `${idOf(7)}/temper/${part}`),
    `${idOf(7)}/mould/1`,
    'new:dark:nk:2/grind/1',
    'new:dark:nk:2/draw/1',
    'new:dark:nk:2/set/1',
  ];
  const { message, name } = new NoPlan(`no plan keeps every rule: ${keys.join(', ')} found no place`, keys);
  show(<Impossible room={room} problem={Object.assign(new Error(message), { name })} />);
  expect(said()).toMatch(/^TL-16 \S+, TL-16 \S+, Dark 70 NKO .+ and 2 more find no time: /);
  expect(said()).not.toMatch(/019a|new:/);
});

test('one step alone, in German', () => {
  show(<Impossible room={room} problem={refusal(`${idOf(7)}/roast/1 has no place`)} />, { language: 'de' });
  expect(said()).toMatch(/^TL-16 Rösten findet keine Zeit/);
});

test('a step put where nothing fits any more says so; anything else says what it says', () => {
  const { redraw } = show(
    <Impossible room={room} problem={refusal('with this step there, something fits nowhere')} />,
  );
  expect(said()).toBe('With this step there, something fits nowhere.');
  redraw(
    <Impossible room={room} problem={new Error('the thread for heavy work broke down: no reason given')} />,
  );
  expect(said()).toBe('This cannot be planned: the thread for heavy work broke down: no reason given.');
});

test.each([
  ['en', /^40 bars of Dark 70: Fiji cannot be made: there is no lot for that/],
  ['de', /^Für 40 Tafeln Dark 70: Fiji gibt es kein Los/],
] as const)('bars that nothing can be made from, in %s', (language, text) => {
  const { message, name } = new NothingToMakeOf('Dark 70: Fiji', 40, 'no-lot');
  show(<Impossible room={room} problem={Object.assign(new Error(message), { name })} />, { language });
  expect(said()).toMatch(text);
});
