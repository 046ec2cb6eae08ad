import { useRef, type ReactNode } from 'react';
import { Button } from './Button.tsx';

/** Opens a file of the person's choosing. The same file may be chosen again after it has been changed. */
export function FileButton({
  label,
  accept,
  icon,
  className,
  onFile,
}: {
  label: string;
  /** Kinds of files offered, as the browser wants them named. */
  accept: string;
  icon?: ReactNode;
  className?: string;
  onFile: (file: File) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button icon={icon} className={className} onClick={() => input.current?.click()}>
        {label}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = '';
        }}
      />
    </>
  );
}

/** Tables of readings, as thermometers and spreadsheets write them. */
export const TABLES =
  '.csv,.tsv,.txt,.xlsx,text/csv,text/plain,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
