import { act, screen } from '@testing-library/react';
import { useState } from 'react';
import type { Dimension } from '@wunsch/core/quantity';
import { show, type PageOptions } from '../testing/page.tsx';
import { MoneyField, QuantityField, type QuantityFieldProps } from './QuantityField.tsx';

let value: number | null;
let set: (value: number | null) => void;

function Form({
  dimension,
  start = null,
  ...more
}: { dimension: Dimension; start?: number | null } & Partial<QuantityFieldProps>) {
  [value, set] = useState<number | null>(start);
  return <QuantityField label="Amount" dimension={dimension} {...more} value={value} onChange={set} />;
}
const field = () => screen.getByLabelText<HTMLInputElement>('Amount');

const TYPED: { dimension: Dimension; text: string; wanted: number | null; options?: PageOptions }[] = [
  { dimension: 'mass', text: '2.4 kg', wanted: 2_400_000 },
  { dimension: 'mass', text: '5lb 4oz', wanted: 2_381_360 },
  { dimension: 'mass', text: '850', wanted: 850_000 },
  { dimension: 'mass', text: '1,5 kg', wanted: 1_500_000, options: { language: 'de' } },
  { dimension: 'mass', text: '12', wanted: 5_443_108, options: { workshop: { massSystem: 'pounds' } } },
  { dimension: 'temperature', text: '290F', wanted: 143.333 },
  { dimension: 'temperature', text: '212', wanted: 100, options: { workshop: { temperatureUnit: '°F' } } },
  { dimension: 'duration', text: '1:30', wanted: 90 },
  { dimension: 'duration', text: '2h15', wanted: 8100 },
  { dimension: 'percent', text: '7,5', wanted: 7.5, options: { language: 'de' } },
  { dimension: 'count', text: '12', wanted: 12 },
  { dimension: 'mass', text: 'heavy', wanted: null },
  { dimension: 'mass', text: '5 furlongs', wanted: null },
];

test.each(TYPED)('$dimension $text is read as $wanted', async ({ dimension, text, wanted, options }) => {
  const { user } = show(<Form dimension={dimension} />, options);
  await user.type(field(), text);
  if (wanted === null) expect(value).toBeNull();
  else expect(value).toBeCloseTo(wanted, dimension === 'mass' ? 0 : 2);
});

test('what makes no sense for an oven is asked about, and one tap takes what was meant', async () => {
  const { user } = show(<Form dimension="temperature" min={40} max={260} />);
  await user.type(field(), '290');
  expect(value).toBeNull();
  expect(field()).toHaveProperty('ariaInvalid', 'true');
  expect(screen.getByText(/290.*outside/).textContent).toMatch(/40.*260/);
  await user.click(screen.getByRole('button', { name: /Did you mean 290.°F/ }));
  expect(value).toBeCloseTo(143.33, 1);
  expect(field().getAttribute('aria-invalid')).toBeNull();
});

test('the other unit is shown beside what was typed, so that a slip is seen', async () => {
  const { user } = show(<Form dimension="mass" />);
  await user.type(field(), '1 lb');
  expect(screen.getByText(/^= 454.g$/)).toBeTruthy();
});

test('half a kilogram is no whole one, and 0.62 lb are not 10 oz', async () => {
  const { user, unmount } = show(<Form dimension="mass" />);
  await user.type(field(), '0.02 lb');
  expect(screen.getByText(/^= 9\.07.g$/)).toBeTruthy();
  unmount();
  const { user: american } = show(<Form dimension="mass" start={40_000} />, POUNDS);
  await american.clear(field());
  await american.type(field(), '0.62 lb');
  expect(screen.getByText(/^= 9\.92.oz$/)).toBeTruthy();
});

const POUNDS: PageOptions = { workshop: { massSystem: 'pounds' } };

test('what is below a pound is typed in ounces, and what stands there is not changed by how it is written', async () => {
  const { user } = show(<Form dimension="mass" start={40_000} max={2_000_000} />, POUNDS);
  expect(field().value).toBe('1.411');
  expect(screen.getByText('oz')).toBeTruthy();
  await user.click(field());
  await user.tab();
  expect(value).toBe(40_000);
  await user.clear(field());
  await user.type(field(), '2');
  expect(value).toBe(56_699);
  act(() => set(2_000_000));
  expect(field().value).toBe('4.409');
  expect(screen.getByText('lb')).toBeTruthy();
  expect(field().getAttribute('aria-invalid')).toBeNull();
});

test('where nothing above a pound may be typed, an empty field asks for ounces', async () => {
  const { user } = show(<Form dimension="mass" max={100_000} />, POUNDS);
  await user.type(field(), '1.5');
  expect(value).toBe(42_524);
});

test('an error is read out with its field', async () => {
  const { user } = show(<Form dimension="mass" />);
  await user.type(field(), '3 bags');
  const described = field().getAttribute('aria-describedby')!.split(' ');
  const texts = described.map((id) => document.getElementById(id)?.textContent ?? '');
  expect(texts.join(' ')).toMatch(/g, kg|kg, g/);
});

test('a value set from outside shows; cleared from outside it is empty without a complaint', async () => {
  const { user } = show(<Form dimension="mass" start={1_250_000} />);
  expect(field().value).toBe('1,250');
  await user.clear(field());
  await user.type(field(), '900');
  await user.tab();
  act(() => set(2_000_000));
  expect(field().value).toBe('2,000');
  act(() => set(null));
  expect(field().value).toBe('');
  expect(field().getAttribute('aria-invalid')).toBeNull();
});

test('an empty field complains only once it was filled and emptied, and never where it may stay empty', async () => {
  const { user } = show(
    <>
      <Form dimension="mass" />
      <QuantityField label="Other" dimension="mass" value={null} onChange={() => undefined} optional />
    </>,
  );
  await user.click(field());
  await user.tab();
  await user.tab();
  expect(document.querySelector('[aria-invalid]')).toBeNull();
});

/** Holds a value as many pages do: what makes no sense counts as what is usual. */
function Usual({ usual, onSent }: { usual: number; onSent: () => void }) {
  const [typed, setTyped] = useState<number | null>(null);
  value = typed;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onSent();
      }}
    >
      <QuantityField
        label="Amount"
        dimension="count"
        value={typed ?? usual}
        onChange={setTyped}
        min={0}
        max={100}
      />
      <button type="submit">Keep</button>
    </form>
  );
}

test('what is out of range stands as it was typed, says what would be right, and keeps its form from being sent', async () => {
  let sent = 0;
  const { user } = show(<Usual usual={98} onSent={() => (sent += 1)} />);
  await user.clear(field());
  expect(field().value).toBe('');
  await user.type(field(), '120{Tab}');
  expect(field().value).toBe('120');
  expect(screen.getByText('120 is outside 0 to 100.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect(sent).toBe(0);
  await user.clear(field());
  await user.type(field(), '90');
  expect(value).toBe(90);
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect(sent).toBe(1);
});

test('a price nobody can read is never sent as none', async () => {
  let [price, sent] = [410, 0];
  const { user } = show(
    <form
      onSubmit={(e) => {
        e.preventDefault();
        sent += 1;
      }}
    >
      <MoneyField label="Price" value={price} onChange={(next) => (price = next)} />
      <button type="submit">Keep</button>
    </form>,
  );
  const box = screen.getByLabelText('Price');
  await user.clear(box);
  await user.type(box, '4..20');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect([sent, box.getAttribute('aria-invalid')]).toEqual([0, 'true']);
  await user.clear(box);
  await user.type(box, '4.20');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect([sent, price]).toEqual([1, 420]);
});

test('typed before it is known how much there is, it is taken once it is; and is not, once there is less', async () => {
  let there: (max: number) => void;
  function Late() {
    const [max, setMax] = useState(0);
    there = setMax;
    return <Form dimension="mass" max={max} start={20_000} />;
  }
  const { user } = show(<Late />);
  await user.clear(field());
  await user.type(field(), '350');
  expect(value).toBeNull();
  act(() => there(12_840_000));
  expect(value).toBe(350_000);
  expect(field().value).toBe('350');
  await user.tab();
  act(() => there(100_000));
  expect(value).toBeNull();
  expect(field().value).toBe('350');
  expect(field()).toHaveProperty('ariaInvalid', 'true');
});

test('a value nobody typed is left alone when the bounds change', () => {
  let there: (max: number) => void;
  function Late() {
    const [max, setMax] = useState(500_000);
    there = setMax;
    return <Form dimension="mass" max={max} start={400_000} />;
  }
  show(<Late />);
  act(() => there(100_000));
  expect(value).toBe(400_000);
});

test.each([
  ['all of it chosen', 60_000, () => field().select()],
  ['nothing in it', null, () => field().focus()],
])('with %s, what is typed takes the place of what was filled in meanwhile', async (_, start, choose) => {
  const { user } = show(<Form dimension="mass" start={start} />);
  act(() => {
    field().focus();
    choose();
  });
  act(() => set(85_000));
  expect(field().value).toBe('85');
  await user.keyboard('50');
  expect(value).toBe(50_000);
});

test('where the hand stands in the midst of it, what was filled in is not chosen', () => {
  show(<Form dimension="mass" start={60_000} />);
  act(() => {
    field().focus();
    field().setSelectionRange(1, 1);
  });
  act(() => set(85_000));
  expect(field().value).toBe('85');
  expect(field().selectionStart).toBe(field().selectionEnd);
});
