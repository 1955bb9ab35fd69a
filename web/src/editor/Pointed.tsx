import { type ReactNode, useState } from 'react';

/**
 * What is under the pointer, or has the focus, is shown wherever else it is drawn or listed: whatever carries the same `data-mark`. A line of the run
 * sheet carries the marks of all it lays. Nothing is drawn anew for it; a rule of style is enough.
 */
export function Pointed({ children, className }: { children: ReactNode; className?: string }) {
  const [mark, setMark] = useState<string>();
  const find = (target: EventTarget): void => {
    const found = (target as Element).closest('[data-mark]')?.getAttribute('data-mark');
    // of a line that lays many pieces none is pointed at
    setMark(found && !found.includes(' ') ? found : undefined);
  };
  return (
    <div
      className={className}
      style={className ? undefined : { display: 'contents' }}
      onPointerOver={(event) => find(event.target)}
      onPointerLeave={() => setMark(undefined)}
      onFocus={(event) => find(event.target)}
      onBlur={() => setMark(undefined)}
    >
      {mark !== undefined && <style>{pointedAt(mark)}</style>}
      {children}
    </div>
  );
}

const pointedAt = (mark: string): string => {
  // told thrice, it outweighs what a role is drawn with
  const here = `[data-mark][data-mark][data-mark~="${CSS.escape(mark)}"]`;
  return `svg ${here} { stroke: var(--ink); stroke-width: 2.6px; stroke-dasharray: none; stroke-opacity: 1; }
    svg text${here} { stroke: var(--film-light); text-decoration: underline; }
    :is(li, tr, button)${here} { box-shadow: inset 3px 0 0 var(--ink); }`;
};
