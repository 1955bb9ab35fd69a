import { useGesture } from '@use-gesture/react';

/** A place on a drawing, pixels from its left upper corner. */
export type At = { readonly x: number; readonly y: number };

/** What a press has taken hold of. */
export type Held = {
  move(at: At): void;
  drop?(at: At): void;
};

type Gestures = {
  /** What lies under a press that begins to move; undefined where it is the drawing itself, which then moves along. */
  hold(at: At, target: Element): Held | undefined;
  /** A press that did not move. */
  tap(at: At, target: Element): void;
  pan(dx: number, dy: number): void;
  /** It was let go where it was moved to. */
  settle?(): void;
  zoom(factor: number, at: At): void;
};

/** How much nearer one step of the wheel goes. */
const WHEEL = 0.0015;
/** A finger or mouse that moved less than this tapped, pixels. */
const TAP = 5;

/** Every drawing is moved by dragging, brought nearer by the wheel or two fingers, and what stands on it taken hold of, alike. */
export function useDrawingGestures(element: HTMLElement | null, { hold, tap, pan, settle, zoom }: Gestures): void {
  const at = ([x, y]: readonly [number, number]): At => {
    const { left, top } = element!.getBoundingClientRect();
    return { x: x - left, y: y - top };
  };
  useGesture(
    {
      onDrag: ({ first, last, tap: isTap, pinching, cancel, initial, xy, delta, event, memo }) => {
        if (pinching) {
          cancel();
          return memo as unknown;
        }
        if (isTap) {
          tap(at(xy), event.target as Element);
          return undefined;
        }
        // the pointer is held by what it began on, so what lies there is asked of the place
        const held = first ? hold(at(initial), document.elementFromPoint(...initial) ?? element!) : (memo as Held | undefined);
        if (!held) {
          pan(...delta);
          if (last) settle?.();
        } else if (last) held.drop?.(at(xy));
        else held.move(at(xy));
        return held;
      },
      onPinch: ({ origin, movement: [scale], memo }) => {
        zoom(scale / ((memo as number | undefined) ?? 1), at(origin));
        return scale;
      },
      onWheel: ({ event, delta: [, dy], ctrlKey }) => {
        // with the key held the browser tells it as a pinch
        if (ctrlKey) return;
        event.preventDefault();
        if (dy !== 0) zoom(Math.exp(-dy * WHEEL), at([event.clientX, event.clientY]));
      },
    },
    {
      target: { current: element },
      eventOptions: { passive: false },
      drag: { filterTaps: true, tapsThreshold: TAP, pointer: { buttons: [1], keys: false } },
    },
  );
}
