import { cleanup, screen } from '@testing-library/react';
import { Wire, show } from '../testing/page.tsx';
import { useRead } from './door.tsx';
import { ReleaseBar } from './ReleaseBar.tsx';

/** The strip, and beside it that the server has answered. */
function Page() {
  const { data } = useRead<{ release: string | null }>('/api/health/ready');
  return (
    <>
      <ReleaseBar />
      {data && <p>the server has {data.release ?? 'none'}</p>}
    </>
  );
}

const loadedFrom = (release: string) => {
  const meta = document.createElement('meta');
  meta.name = 'release';
  meta.content = release;
  document.head.append(meta);
};
afterEach(() => document.querySelectorAll('meta[name=release]').forEach((meta) => meta.remove()));

test('a page of the build the server has says nothing; one of another offers to load it', async () => {
  loadedFrom('a1');
  const wire = new Wire().has('/api/health/ready', { status: 'ok', release: 'a1' });
  show(<Page />);
  await screen.findByText('the server has a1');
  expect(screen.queryByRole('status')).toBeNull();
  cleanup();
  wire.has('/api/health/ready', { status: 'ok', release: 'b2' });
  show(<Page />, { language: 'de' });
  expect(await screen.findByText('Wunsch wurde erneuert.')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Jetzt laden' })).toBeTruthy();
});

test('where pages are not built, or the server hands out none, there is nothing to compare', async () => {
  new Wire().has('/api/health/ready', { status: 'ok', release: 'b2' });
  show(<Page />);
  await screen.findByText('the server has b2');
  expect(screen.queryByRole('status')).toBeNull();
  cleanup();
  loadedFrom('a1');
  new Wire().has('/api/health/ready', { status: 'ok', release: null });
  show(<Page />);
  await screen.findByText('the server has none');
  expect(screen.queryByRole('status')).toBeNull();
});
