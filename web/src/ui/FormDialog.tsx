import { useState, type ReactNode } from 'react';
import { useWords } from '../words/words.tsx';
import { Button } from './Button.tsx';
import { Dialog } from './Dialog.tsx';

/** What the frame of a form does with an act: whether one is under way, what was refused, and how to do another. */
interface FormActs {
  busy: boolean;
  /** Does something else than what the form is for, closes on success, and says what was refused. */
  run: (act: () => Promise<unknown>) => void;
}

/**
 * A dialog that asks for one entry. It closes when the entry was taken, and keeps what was typed and says why when it was refused; a second tap
 * while it is sent does nothing.
 */
export function FormDialog({
  title,
  description,
  submit,
  onSubmit,
  isReady = true,
  also,
  onClose,
  wide = false,
  children,
}: {
  title: string;
  description?: string;
  /** The word on the button that sends it. */
  submit: string;
  /** Sends it. */
  onSubmit: () => Promise<unknown>;
  /** Whether enough is known to send it. */
  isReady?: boolean;
  /** What else can be done here, beside the main button. */
  also?: (acts: FormActs) => ReactNode;
  onClose: () => void;
  wide?: boolean;
  children: ReactNode;
}) {
  const { explain } = useWords();
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const run = (act: () => Promise<unknown>) => {
    if (busy) return;
    setBusy(true);
    setRefused(null);
    act().then(onClose, (error: unknown) => {
      setBusy(false);
      setRefused(explain(error));
    });
  };
  return (
    <Dialog open onClose={onClose} title={title} description={description} wide={wide}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (isReady) run(onSubmit);
        }}
      >
        {children}
        <p role="alert" hidden={!refused} className="text-[13.5px] text-bad">
          {refused}
        </p>
        <div className="flex flex-wrap gap-2">
          <Button type="submit" look="main" big disabled={!isReady || busy}>
            {submit}
          </Button>
          {also?.({ busy, run })}
        </div>
      </form>
    </Dialog>
  );
}
