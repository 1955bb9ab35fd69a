import { useLayoutEffect, useMemo, useRef } from 'react';
import type { At } from './gestures.ts';

const STILL: At = { x: 0, y: 0 };

/** How far a drawing has been dragged along since its view was drawn. */
export type Slide = {
  /** Moves what is drawn, so many pixels. */
  by(dx: number, dy: number): void;
  /** How far it has slid since this was last asked; the next view begins there. */
  taken(): At;
};

/**
 * While a drawing is dragged along, its layers slide as they are and nothing is drawn anew: those marked `data-slides` with "along and up", or with
 * "up" for what keeps its place from the left. A new view puts them back.
 */
export function useSlide(frame: HTMLElement | null, view: unknown): Slide {
  const slid = useRef(STILL);
  const put = useMemo(
    () =>
      ({ x, y }: At): void => {
        slid.current = { x, y };
        for (const layer of frame?.querySelectorAll<SVGElement>('[data-slides]') ?? [])
          layer.style.translate = layer.dataset['slides'] === 'up' ? `0px ${y}px` : `${x}px ${y}px`;
      },
    [frame],
  );
  useLayoutEffect(() => put(STILL), [put, view]);
  return useMemo(
    () => ({
      by: (dx, dy) => put({ x: slid.current.x + dx, y: slid.current.y + dy }),
      taken: () => {
        const at = slid.current;
        slid.current = STILL;
        return at;
      },
    }),
    [put],
  );
}
