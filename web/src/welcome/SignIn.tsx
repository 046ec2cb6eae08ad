import { useState } from 'react';
import { mutate } from 'swr';
import type { SessionView } from '@wunsch/contract';
import { request } from '../shell/api.ts';
import { Wordmark } from '../shell/glyphs.tsx';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { hasKeyboard } from '../ui/hasKeyboard.ts';
import { useWords } from '../words/words.tsx';

/** Signing in by name and password; demo accounts are one click away on the machine itself. */
export default function SignIn({ session }: { session: SessionView }) {
  const words = useWords();
  const { t } = words;
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [error, setError] = useState<string | null>(null);
  const enter = (body: object) =>
    request('POST', '/api/session', body).then(
      () => mutate('/api/session'),
      (failure: unknown) => setError(words.explain(failure)),
    );
  return (
    <main className="mx-auto grid min-h-dvh max-w-md content-center gap-4 p-4">
      <h1>
        <Wordmark size={44} />
        <span className="sr-only">{t('sign-in')}</span>
      </h1>
      <p className="text-[15px] text-ink-2">{session.greeting?.name}</p>
      {session.demoPeople.length > 0 && (
        <section className="panel p-4" aria-label={t('demo')}>
          <h2 className="text-[17px]">{t('demo')}</h2>
          <p className="mb-3 text-[12.5px] text-ink-3">{t('demo.hint')}</p>
          <div className="grid gap-2">
            {session.demoPeople.map((p) => (
              <Button key={p.id} look="main" big onClick={() => void enter({ demoPersonId: p.id })}>
                {t('demo.as', { name: p.name, role: t(`role.${p.role}`) })}
              </Button>
            ))}
          </div>
        </section>
      )}
      <form
        className="panel grid gap-3 p-4"
        onSubmit={(e) => {
          e.preventDefault();
          void enter({ name, password });
        }}
      >
        <TextField
          label={t('name')}
          value={name}
          onChange={(e) => setName(e.target.value)}
          autoComplete="username"
          // Where there are accounts to tap on, those come first.
          autoFocus={hasKeyboard() && session.demoPeople.length === 0}
          required
        />
        <TextField
          label={t('password')}
          type="password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
          required
          error={error}
        />
        <Button
          type="submit"
          look={session.demoPeople.length > 0 ? 'plain' : 'main'}
          big
          disabled={!name || !password}
        >
          {t('sign-in')}
        </Button>
      </form>
    </main>
  );
}
