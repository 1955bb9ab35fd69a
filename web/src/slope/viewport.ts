import { useCallback, useEffect, useState } from 'react';

/** What part of the chart is seen: pixels a millimetre, and the chart's point at the drawing's left and top. */
export type Viewport = { readonly scale: number; readonly left: number; readonly top: number };

export type Size = { readonly width: number; readonly height: number };

/** Width of the story pole beside the drawing, and of the strips kept for the dry-in below the eave and the finish above the ridge. */
export const POLE = 182;
/** The stick within it, room for its letters on the left and for its tags on the right. */
export const STICK = POLE - 72;
export const FOOT = 118;
export const HEAD = 78;

export const toX = (view: Viewport, x: number): number => POLE + (x - view.left) * view.scale;
export const toY = (view: Viewport, y: number): number => (view.top - y) * view.scale;
export const fromX = (view: Viewport, px: number): number => (px - POLE) / view.scale + view.left;
export const fromY = (view: Viewport, py: number): number => view.top - py / view.scale;

/** The whole height of the slope between the two strips, its left end (with the unfolded wall) at the pole. */
export function fitHeight(size: Size, slopeLength: number, left: number): Viewport {
  const scale = Math.max(0.001, (size.height - FOOT - HEAD) / slopeLength);
  return { scale, left, top: slopeLength + HEAD / scale };
}

/** Room for what is lettered beside a slope: a wall's name, a rake. */
const LETTERED = 22;

/** The whole slope, wall to rake. */
export function fitAll(size: Size, slopeLength: number, left: number, right: number): Viewport {
  const scale = Math.max(
    0.001,
    Math.min((size.height - FOOT - HEAD) / slopeLength, (size.width - POLE - 2 * LETTERED) / (right - left)),
  );
  const spare = size.height - FOOT - HEAD - slopeLength * scale;
  return { scale, left: left - LETTERED / scale, top: slopeLength + (HEAD + spare / 2) / scale };
}

/** Nearer or farther about a point on the screen. From the whole roof down to a nail's head. */
export function zoomAt(view: Viewport, factor: number, px: number, py: number): Viewport {
  const scale = Math.min(8, Math.max(0.01, view.scale * factor));
  return { scale, left: fromX(view, px) - (px - POLE) / scale, top: fromY(view, py) + py / scale };
}

export const pan = (view: Viewport, dx: number, dy: number): Viewport => ({
  ...view,
  left: view.left - dx / view.scale,
  top: view.top + dy / view.scale,
});

/** The size of an element, followed as it changes. */
export function useSize(): [(element: HTMLElement | null) => void, Size | undefined, HTMLElement | null] {
  const [element, setElement] = useState<HTMLElement | null>(null);
  const [size, setSize] = useState<Size>();
  useEffect(() => {
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      if (width > 0 && height > 0) setSize({ width, height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return [useCallback((next: HTMLElement | null) => setElement(next), []), size, element];
}
