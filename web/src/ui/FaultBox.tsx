import type { ReactNode } from 'react';

/** A box that says what is wrong or missing. With `alert` it is read out at once, with `status` when there is a pause. */
export function FaultBox({
  children,
  role,
  className = '',
}: {
  children: ReactNode;
  role?: 'alert' | 'status';
  className?: string;
}) {
  return (
    <div role={role} className={`border-l-4 border-bad bg-bad-tint p-3 text-[13.5px] ${className}`}>
      {children}
    </div>
  );
}
