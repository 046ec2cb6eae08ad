import { act, screen, waitFor, within } from '@testing-library/react';
import {
  StepHands as HandsBody,
  WorkshopPut,
  type Person,
  type PersonRuns,
  type SkillsView,
} from '@wunsch/contract';
import { Beside } from '../stations/Beside.tsx';
import { StepHands } from '../stations/StepHands.tsx';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf, step } from '../testing/views.ts';
import PersonPage from './PersonPage.tsx';
import { SkillsPanel } from './SkillsPanel.tsx';

/** Whoever is signed in, as pages are drawn for. */
const ME = '019a0000-0000-7000-8000-000000000001';
const [TAM, OLD] = [idOf(2), idOf(3)];
const person = (id: string, name: string, more: Partial<Person> = {}) =>
  ({ id, name, initials: name.slice(0, 2), role: 'maker', active: true, version: 2, ...more }) as Person;

const SKILLS: SkillsView = {
  signed: [
    { id: idOf(20), personId: ME, station: 'roast', by: 'JB', at: '2026-03-01T09:00:00.000Z' },
    { id: idOf(21), personId: TAM, station: 'winnow', by: 'JB', at: '2026-03-02T09:00:00.000Z' },
  ],
  practised: [{ personId: TAM, lesson: 'roast', level: 2, points: 61, times: 1 }],
};

const sum = (skill: string, counts: object) => ({
  personId: TAM,
  skill,
  runs: 30,
  lastAt: '2026-11-20T09:00:00.000Z',
  good: 0,
  wanting: 0,
  unseen: 0,
  done: 0,
  ...counts,
});

const workshopWith = (role: 'owner' | 'maker', skills: SkillsView = SKILLS) =>
  new Wire()
    .has('/api/people', [
      person(ME, 'Ada', { role }),
      person(TAM, 'Tam'),
      person(OLD, 'Old', { active: false }),
    ])
    .has('/api/skills', skills)
    .has('/api/skills/runs', [
      sum('sort', { done: 10 }),
      sum('grind', { good: 4, wanting: 6 }),
      sum('temper', { good: 5, unseen: 5 }),
    ]);

describe('who works where', () => {
  const open = (role: 'owner' | 'maker', options: PageOptions = {}) => {
    const wire = workshopWith(role);
    return { wire, ...show(<SkillsPanel />, { role, ...options }) };
  };
  const at = (name: string) => screen.findByRole<HTMLButtonElement>('switch', { name });

  test('a maker signs others off where they are signed off themselves, nowhere else and never themselves', async () => {
    const { wire, user } = open('maker');
    expect((await at('Tam, Roast')).disabled).toBe(false);
    expect((await at('Tam, Winnow')).disabled).toBe(true);
    expect((await at('Ada, Roast')).disabled).toBe(true);
    expect(screen.queryByRole('switch', { name: /^Old/ })).toBeNull();
    expect((await at('Tam, Roast')).title).toMatch(/61/);
    await user.click(await at('Tam, Roast'));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]).toMatchObject({
      path: expect.stringMatching(/^\/api\/sign-offs\/[^/]+$/),
      body: { personId: TAM, station: 'roast' },
    });
  });

  test('an owner takes one back', async () => {
    const { wire, user } = open('owner');
    expect((await at('Tam, Winnow')).getAttribute('aria-checked')).toBe('true');
    await user.click(await at('Tam, Winnow'));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.path).toBe(`/api/sign-offs/${idOf(21)}/withdrawal`);
  });

  test('how far each is stands there: by good runs, by runs nothing can tell of, never for an owner', async () => {
    open('owner');
    await waitFor(async () => expect((await at('Tam, Grind')).textContent).toBe('4/5'));
    expect((await at('Tam, Grind')).title).not.toMatch(/ready/);
    expect((await at('Tam, Temper')).title).toMatch(/ready/);
    expect((await at('Tam, Sort')).textContent).toBe('5/5');
    expect((await at('Tam, Roast')).textContent).toBe('◦');
    expect((await at('Ada, Grind')).textContent).toBe('–');
  });

  test('the workshop has a rule of its own, whole and within what is looked back on', async () => {
    const { wire, user } = open('owner', { workshop: { signOff: { goodRuns: 4, points: 60 } } });
    await waitFor(async () => expect((await at('Tam, Grind')).title).toMatch(/ready/));
    // 61 points on level 2 are enough here.
    expect((await at('Tam, Roast')).title).toMatch(/ready/);
    await user.click(screen.getByRole('button', { name: 'Change the rule' }));
    const dialog = within(screen.getByRole('dialog'));
    const runs = dialog.getByLabelText(/^Good runs/);
    const save = dialog.getByRole<HTMLButtonElement>('button', { name: 'Save' });
    for (const nonsense of ['0', '11', '2.5', 'many']) {
      await user.clear(runs);
      await user.type(runs, `${nonsense}{Tab}`);
      expect(save.disabled).toBe(true);
      expect(runs.getAttribute('aria-invalid')).toBe('true');
    }
    await user.clear(runs);
    await user.type(runs, '3{Enter}');
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(WorkshopPut.parse(wire.sent[0]!.body).signOff).toEqual({ goodRuns: 3, points: 60 });
  });

  test('who moulds may pack, and a packer’s signature is their own', async () => {
    const signed = (personId: string, station: string, n: number) => ({
      id: idOf(n),
      personId,
      station,
      by: 'JB',
      at: '2026-03-01T09:00:00.000Z',
    });
    workshopWith('maker', {
      ...SKILLS,
      signed: [signed(ME, 'mould', 40), signed(TAM, 'wrap', 41)],
    });
    show(<SkillsPanel />, { role: 'maker' });
    expect((await at('Ada, Pack')).textContent).toBe('(JB)');
    expect((await at('Ada, Pack')).getAttribute('aria-checked')).toBe('false');
    expect((await at('Tam, Pack')).textContent).toBe('JB');
    expect((await at('Tam, Mould')).getAttribute('aria-checked')).toBe('false');
    // Whoever may mould may sign others off for either.
    expect((await at('Tam, Pack')).disabled).toBe(false);
    expect((await at('Tam, Mould')).disabled).toBe(false);
  });

  test('others than an owner are told the rule and not asked', async () => {
    open('maker');
    expect(await screen.findByText(/Ready after 5 good runs of the last 10/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Change the rule' })).toBeNull();
  });
});

describe('what somebody has done', () => {
  const run = (n: number, skill: string, good: boolean | null, faults: string[] = []) => ({
    stepId: idOf(n),
    batchId: idOf(50),
    batchCode: 'NKO-14',
    skill,
    kind: skill,
    at: `2026-11-${n}T09:00:00.000Z`,
    good,
    faults,
  });
  const RUNS = {
    sums: [sum('sort', { runs: 12, done: 1 }), sum('winnow', { good: 1, wanting: 1, unseen: 1 })],
    latest: [
      run(24, 'winnow', true),
      run(23, 'winnow', null),
      run(22, 'winnow', false, ['husk-left']),
      run(21, 'sort', null),
    ],
  } as unknown as PersonRuns;
  const open = (runs: PersonRuns, role: 'owner' | 'maker' = 'owner', at = `/people/${TAM}`) => {
    const wire = workshopWith(role)
      .has(`/api/people/${TAM}/runs`, runs)
      .has(`/api/people/${ME}/runs`, { sums: [], latest: [] });
    return {
      wire,
      ...show(<PersonPage />, { role, at, route: at === '/people/me' ? at : '/people/:personId' }),
    };
  };

  test('each station with its runs and how the last went, and each run with why it was wanting', async () => {
    const { wire, user } = open(RUNS);
    expect(await screen.findByRole('heading', { name: 'What Tam has done' })).toBeTruthy();
    expect(screen.getByRole('img', { name: '1 good, 1 wanting, 1 nobody looked, 0 done' })).toBeTruthy();
    expect(screen.getByText(/12 runs, last 20 Nov 2026; 1 of 5 good runs/)).toBeTruthy();
    const rows = within(screen.getByRole('table', { name: 'Latest runs' }))
      .getAllByRole('row')
      .slice(1);
    expect(rows.map((r) => within(r).getAllByRole('cell').at(-1)!.textContent)).toEqual([
      'good',
      'nobody looked',
      'wanting: too much husk in the nibs',
      'done',
    ]);
    await user.click(screen.getByRole('button', { name: 'Sign off, Sort' }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toEqual({ personId: TAM, station: 'sort' });
    expect(screen.getByRole('button', { name: 'Withdraw, Winnow' })).toBeTruthy();
  });

  test('one’s own page, with nothing done yet, says what will stand there', async () => {
    open(RUNS, 'maker', '/people/me');
    expect(await screen.findByRole('heading', { name: 'What Ada has done' })).toBeTruthy();
    expect(screen.queryByRole('table')).toBeNull();
    // Signed off at the roaster without a run.
    expect(screen.getByText(/signed off by JB/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Sign off/ })).toBeNull();
  });
});

describe('who was at a step', () => {
  const sorting = step('sort', { id: idOf(30), by: 'Ad' });

  test('whoever entered it, until somebody says who it was', async () => {
    const wire = workshopWith('maker');
    const { user } = show(<StepHands step={sorting} />);
    expect(await screen.findByText('At it: Ad')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Who was at it' }));
    const dialog = within(await screen.findByRole('dialog'));
    const ada = dialog.getByLabelText<HTMLInputElement>('Ada');
    expect(ada.checked).toBe(true);
    expect(dialog.queryByLabelText('Old')).toBeNull();
    await user.click(ada);
    const keep = dialog.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
    expect(keep.disabled).toBe(true);
    await user.click(dialog.getByLabelText('Tam'));
    await user.click(keep);
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.path).toBe(`/api/steps/${sorting.id}/hands`);
    expect(HandsBody.parse(wire.sent[0]!.body)).toEqual({ personIds: [TAM] });
  });

  test('who is said stands there, and nobody is asked where one works alone or only looks on', async () => {
    workshopWith('maker');
    const named = { ...sorting, hands: ['Ta', 'Ad'] };
    const { unmount } = show(<StepHands step={named} />);
    expect(await screen.findByText('At it: Ta, Ad')).toBeTruthy();
    unmount();
    const viewer = show(<StepHands step={named} />, { role: 'viewer' });
    expect(viewer.container.textContent).toBe('');
    viewer.unmount();
    new Wire().has('/api/people', [person(ME, 'Ada')]);
    const alone = show(<StepHands step={sorting} />);
    await act(() => new Promise((done) => setTimeout(done, 50)));
    expect(alone.container.textContent).toBe('');
  });
});

test('what is tapped is so at once, and as it was where it is refused', async () => {
  const wire = workshopWith('owner');
  wire.hold();
  const { user } = show(<SkillsPanel />, { role: 'owner' });
  const cell = await screen.findByRole('switch', { name: 'Tam, Winnow' });
  await user.click(cell);
  expect(cell.getAttribute('aria-checked')).toBe('false');
  const check = screen.getByRole<HTMLInputElement>('checkbox', { name: /^The plan gives/ });
  await user.click(check);
  expect(check.checked).toBe(true);
  wire.refuse({ code: 'not-signed-off', detail: 'signing off is for owners' });
  wire.release();
  // The first to be answered is refused; the other stands.
  await waitFor(() => expect(cell.getAttribute('aria-checked')).toBe('true'));
  expect(check.checked).toBe(true);
});

test('a packer is told beside whom to mould, not to pack', async () => {
  const sign = (personId: string, station: string, n: number) => ({
    ...SKILLS.signed[0]!,
    id: idOf(n),
    personId,
    station,
  });
  workshopWith('maker', { ...SKILLS, signed: [sign(TAM, 'mould', 40), sign(ME, 'wrap', 41)] });
  show(<Beside station="mould" />);
  expect((await screen.findByRole('status')).textContent).toBe(
    'You are signed off to pack here. To mould, work beside Tam.',
  );
});
