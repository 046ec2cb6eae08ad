import { expect, type Locator, type Page } from '@playwright/test';

/** Collects what a browser complains of; streams and requests cut off by leaving a page do not count. */
export function complaints(page: Page): string[] {
  const found: string[] = [];
  page.on('console', (m) => m.type() === 'error' && found.push(`console: ${m.text()}`));
  page.on('pageerror', (e) => found.push(`error: ${e.message}`));
  page.on(
    'requestfailed',
    (r) => r.failure()?.errorText !== 'net::ERR_ABORTED' && found.push(`failed: ${r.url()}`),
  );
  page.on('response', (r) => r.status() >= 400 && found.push(`${r.status()}: ${r.url()}`));
  return found;
}

/** Types a weight into the pad that is open and presses its button. */
export async function weigh(page: Page, text: string, button?: string): Promise<void> {
  const pad = page.getByRole('dialog');
  const weight = pad.getByLabel('Weight', { exact: true });
  // Typed without touching it first, as from a keyboard or a scale that types.
  await expect(weight).toBeFocused();
  await weight.fill(text);
  const action = button
    ? pad.getByRole('button', { name: button, exact: true })
    : pad.locator('button[type=submit]');
  await action.click();
  await expect(pad).toBeHidden();
}

/** Takes all of the first parcel offered; where that is more than the machine holds, says so a second time. */
export async function takeAll(page: Page, opener: Locator, isTooMuch = false): Promise<void> {
  await opener.click();
  const accepted = page.waitForResponse((r) => r.url().includes('/api/movements/') && r.status() === 201);
  // The page may hear of the entry, and read anew, before its own request is answered.
  const readAgain = page.waitForResponse((r) => r.url().includes('/api/batches/'));
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^All, / })
    .first()
    .click();
  if (isTooMuch)
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Yes, / })
      .click();
  await Promise.all([accepted, readAgain]);
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.waitForTimeout(150);
}

/** Closes the step that is open with what its dialog proposes. */
export async function closeStep(page: Page, name: string): Promise<void> {
  await page.getByRole('main').getByRole('button', { name, exact: true }).click();
  await page.getByRole('dialog').getByRole('button', { name, exact: true }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
}

/** Signs in to the demo as one of its people. */
export async function enterDemo(page: Page, name = 'Anneke', path = '/'): Promise<void> {
  await page.goto(`${process.env.DEMO_URL}${path}`);
  await page.getByRole('button', { name: new RegExp(`${name}`) }).click();
  await page
    .getByRole('link', { name: /Bench|Werkbank/ })
    .first()
    .waitFor();
}

/** Silences what rings, as a person at another station would. */
export async function quiet(page: Page): Promise<void> {
  const button = page.getByRole('button', { name: 'Quiet' });
  await page.waitForTimeout(1500);
  for (let i = 0; i < 4 && (await button.count()) > 0; i += 1) await button.first().click();
}

/** Goes to a station along the line, and waits until its own screen stands there. */
export async function toStation(page: Page, name: string): Promise<void> {
  const heading = page.getByRole('main').locator('h1').first();
  const before = await heading.textContent();
  const link = page
    .getByRole('navigation', { name: 'The line' })
    .getByRole('link', { name: new RegExp(`^${name}`) });
  const here = (await link.getAttribute('aria-current')) === 'page';
  await link.click();
  if (!here) await expect(heading).not.toHaveText(before ?? '');
}

/**
 * What can be pressed on the page and lies in part under something else, in words. What is only scrolled under a bar that stays where it is does not
 * count, nor do drawings, whose parts may lie over each other.
 */
export function coveredControls(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const nameOf = (e: Element) =>
      `${e.tagName.toLowerCase()} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 40)}”`;
    const staysPut = (e: Element): boolean =>
      ['fixed', 'sticky'].includes(getComputedStyle(e).position) ||
      (e.parentElement !== null && staysPut(e.parentElement));
    const controls = document.querySelectorAll(
      'main :is(a[href], button, input, select, textarea, summary, [role=slider])',
    );
    const coverOf = (e: Element): Element | null => {
      if (e.getBoundingClientRect().top < 80 || e.getBoundingClientRect().bottom > innerHeight - 90)
        e.scrollIntoView({ block: 'center' });
      const { left, right, top, bottom } = e.getBoundingClientRect();
      const inset = 5;
      const points = [
        [(left + right) / 2, (top + bottom) / 2],
        ...[left + inset, right - inset].flatMap((x) => [top + inset, bottom - inset].map((y) => [x, y])),
      ];
      const labels = [...((e as HTMLInputElement).labels ?? [])];
      for (const [x, y] of points) {
        // Nothing is found beyond the window's edge.
        const hit = document.elementFromPoint(x!, y!);
        if (!hit || e.contains(hit) || hit.contains(e) || labels.some((l) => l.contains(hit))) continue;
        if (staysPut(hit) && !staysPut(e)) continue;
        return hit;
      }
      return null;
    };
    const before = document.documentElement.scrollTop;
    const found = [...controls].flatMap((e) => {
      const { width, height } = e.getBoundingClientRect();
      const isSeen = e.checkVisibility({ opacityProperty: true, visibilityProperty: true });
      if (!isSeen || width < 14 || height < 14 || e.closest('svg, [data-size-is-time]')) return [];
      const cover = coverOf(e);
      return cover ? [`${nameOf(e)} lies under ${nameOf(cover)}`] : [];
    });
    document.documentElement.scrollTop = before;
    return found;
  });
}

/** What is written in drawings and sticks out of them or of the page, or lies over something else that is written there, in words. */
export function misplacedNames(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const isSeen = (e: Element) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true });
    const drawingOf = (e: Element): Element => {
      const outer = e.closest('svg')!.parentElement!.closest('svg');
      return outer ? drawingOf(outer) : e.closest('svg')!;
    };
    const isScrolled = (e: Element | null): boolean =>
      e !== null &&
      ((['auto', 'scroll'].includes(getComputedStyle(e).overflowX) && e.scrollWidth > e.clientWidth + 1) ||
        isScrolled(e.parentElement));
    const written = [...document.querySelectorAll('main svg text')]
      .filter((e) => isSeen(e) && e.textContent.trim() !== '')
      .map((e) => ({
        name: `“${e.textContent.slice(0, 40)}”`,
        in: drawingOf(e),
        box: e.getBoundingClientRect(),
      }))
      .filter(({ box }) => box.width > 0);
    const out = written.flatMap(({ name, in: drawing, box }) => {
      const frame = drawing.getBoundingClientRect();
      const isOut =
        box.left < frame.left - 3 ||
        box.right > frame.right + 3 ||
        box.top < frame.top - 4 ||
        box.bottom > frame.bottom + 4;
      const isOffPage = !isScrolled(drawing.parentElement) && (box.left < 0 || box.right > innerWidth);
      return isOut || isOffPage ? [`${name} sticks out`] : [];
    });
    const over = written.flatMap((a, i) =>
      written.slice(i + 1).flatMap((b) => {
        const width = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
        const apart = Math.abs(a.box.top + a.box.bottom - b.box.top - b.box.bottom) / 2;
        return a.in === b.in && width > 4 && apart < 9 ? [`${a.name} lies over ${b.name}`] : [];
      }),
    );
    return [...out, ...over];
  });
}

/** What is misprinted on a page, in words: two columns of one name, what is no number, and in German a fraction with the English mark. */
export function misprints(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const twice = [...document.querySelectorAll('main table')].flatMap((table) => {
      const names = [...table.querySelectorAll('thead th')].map((h) => h.textContent.trim()).filter(Boolean);
      return names.filter((name, i) => names.indexOf(name) < i).map((name) => `two columns “${name}”`);
    });
    const lines = document.querySelector('main')!.innerText.split('\n');
    const none = lines.filter((l) => /\b(undefined|NaN|Infinity)\b|\[object|∞/.test(l));
    const isGerman = document.documentElement.lang === 'de';
    const english = lines.filter(
      (l) => isGerman && /(?<![\d.])\d+\.\d{1,2}(?![\d.])/.test(l) && !/EPCIS/.test(l),
    );
    return [...twice, ...[...none, ...english].map((l) => `misprint: ${l.slice(0, 60)}`)];
  });
}
