import { copyText } from './copyText.ts';

const give = (clipboard: unknown) =>
  Object.defineProperty(navigator, 'clipboard', { configurable: true, value: clipboard });
/** The text that would be copied as a selection. */
const selected = () => {
  const { activeElement: box } = document;
  return box instanceof HTMLTextAreaElement ? box.value.slice(box.selectionStart, box.selectionEnd) : null;
};
let copied: string | null = null;
beforeEach(() => {
  copied = null;
  document.execCommand = () => {
    copied = selected();
    return true;
  };
});
afterEach(() => give(undefined));

test('goes to the browser’s clipboard where a page may use it', async () => {
  const written: string[] = [];
  give({ writeText: (text: string) => Promise.resolve(void written.push(text)) });
  expect(await copyText('NK-07')).toBe(true);
  expect([written, copied]).toEqual([['NK-07'], null]);
});

test.each([
  ['hidden', undefined],
  ['refused', { writeText: () => Promise.reject(new Error('not allowed')) }],
])('where it is %s, a selection is copied, and the focus goes back to where it was', async (_, clipboard) => {
  give(clipboard);
  document.body.innerHTML = '<div><button>Copy</button></div>';
  const button = document.querySelector('button')!;
  button.focus();
  expect(await copyText('three\nlines\nhere')).toBe(true);
  expect(copied).toBe('three\nlines\nhere');
  expect(document.activeElement).toBe(button);
  expect(document.querySelector('textarea')).toBeNull();
});

test('says so where nothing can be copied', async () => {
  document.execCommand = () => {
    throw new Error('no');
  };
  expect(await copyText('x')).toBe(false);
});
