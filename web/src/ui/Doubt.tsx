/** What is hard to believe of what was just typed, beside the button that takes it all the same; nothing where there is no doubt. */
export function Doubt({ children, className = '' }: { children: string | null; className?: string }) {
  if (children === null) return null;
  return (
    <p className={`border-l-4 border-bad bg-bad-tint p-2 text-[14px] text-bad ${className}`}>▲ {children}</p>
  );
}
