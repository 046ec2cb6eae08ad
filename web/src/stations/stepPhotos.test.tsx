import { fireEvent, screen, waitFor } from '@testing-library/react';
import { show, Wire } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { StepPhotos } from './StepPhotos.tsx';

const photo = (n: number, stepId: string, type = 'image/jpeg') => ({
  id: idOf(n),
  lotId: null,
  batchId: idOf(10),
  stepId,
  name: `Set test ${n}`,
  type,
  size: 1000,
  at: '2026-11-25T10:00:00Z',
  by: 'AK',
});

const page = <StepPhotos batchId={idOf(10)} stepId={idOf(20)} what="Set test" />;

test('pictures of the step are shown, those of others and documents are not', async () => {
  new Wire().has(`/api/attachments?batchId=${idOf(10)}`, [
    photo(1, idOf(20)),
    photo(2, idOf(21)),
    photo(3, idOf(20), 'application/pdf'),
  ]);
  show(page);
  expect((await screen.findAllByRole('img')).map((i) => i.getAttribute('alt'))).toEqual([
    expect.stringMatching(/^Set test 1, /),
  ]);
});

test('a photograph is kept with its step under what it shows; what is no picture is refused and nothing is sent', async () => {
  const wire = new Wire();
  show(page);
  const input = screen.getByLabelText('Photograph it', { selector: 'input' });
  const file = new File([new Uint8Array([0x89, 0x50])], 'IMG_0042.png', { type: 'image/png' });
  fireEvent.change(input, { target: { files: [file] } });
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ stepId: idOf(20), name: 'Set test', type: 'image/png' });
  const text = new File(['dip'], 'dip.txt', { type: 'text/plain' });
  fireEvent.change(input, { target: { files: [text] } });
  expect(await screen.findByRole('alert')).toBeTruthy();
  expect(wire.sent).toHaveLength(1);
});

test('who only tastes sees them and takes none', () => {
  new Wire();
  show(page, { role: 'taster' });
  expect(screen.queryByLabelText('Photograph it')).toBeNull();
});
