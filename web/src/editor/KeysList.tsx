import { Kbd, Modal } from '@mantine/core';
import { type HotkeyItem, useHotkeys } from '@mantine/hooks';
import { headingOf } from '#core';
import { useEditing, usePlanned, useSlope, useView } from './context.ts';
import css from './KeysList.module.css';

const KEYS: readonly (readonly [string, string])[] = [
  ['↑ ↓', 'Slope and bench: next line, line before'],
  ['Page Up, Page Down', 'Slope and bench: a course up, a course down'],
  ['Home, End', 'Slope and bench: nothing laid, everything laid'],
  ['[ ]', 'Piece before, next piece'],
  ['F', 'Next finding'],
  ['Shift+← Shift+→', 'Slope before, next slope'],
  ['+ − 0', 'Nearer, farther, fit'],
  ['Esc', 'Close what is open'],
  ['Ctrl+Z, Ctrl+Y', 'Undo, redo'],
  ['?', 'This list'],
];

type Props = {
  /** The view has the marker in it: its keys move it, elsewhere they scroll as everywhere. */
  marks: boolean;
  opened: boolean;
  onOpen: () => void;
  onClose: () => void;
};

/** The keys of a job's views, and the sheet that lists them. */
export function KeysList({ marks, opened, onOpen, onClose }: Props) {
  const { editor } = useEditing();
  const { plan, findings } = usePlanned();
  const { lines } = useSlope();
  const { marker, setMarker, chosen, choose, goTo } = useView();
  const byCourse = (direction: 1 | -1): void => {
    const from = Math.max(0, marker - 1);
    const group = (i: number): string => {
      const line = lines[i];
      return line ? `${headingOf(line.lay)}-${line.course}` : '';
    };
    let at = from + direction;
    while (lines[at] && group(at) === group(from)) at += direction;
    // land on the last line of the course reached
    while (direction === 1 && lines[at + 1] && group(at + 1) === group(at)) at++;
    setMarker(Math.max(0, Math.min(lines.length, at + 1)));
  };
  const nextPiece = (direction: 1 | -1): void => {
    const at = chosen ? plan.pieces.indexOf(chosen) : direction === 1 ? -1 : 0;
    choose(plan.pieces.at((at + direction + plan.pieces.length) % plan.pieces.length)?.mark);
  };
  const nextFinding = (): void => {
    const at = findings.findIndex(({ piece }) => piece !== undefined && piece === chosen?.mark);
    const next = findings[(at + 1) % findings.length];
    if (next) goTo(next);
  };
  const moving: HotkeyItem[] = [
    ['ArrowUp', () => setMarker(Math.min(lines.length, marker + 1))],
    ['ArrowDown', () => setMarker(Math.max(0, marker - 1))],
    ['PageUp', () => byCourse(1)],
    ['PageDown', () => byCourse(-1)],
    ['Home', () => setMarker(0)],
    ['End', () => setMarker(lines.length)],
  ];
  useHotkeys([
    ...moving.map(([key, move]): HotkeyItem => [
      key,
      (event) => {
        // what is open in front of the view scrolls
        if (!marks || document.querySelector('[role="dialog"]')) return;
        event.preventDefault();
        move(event);
      },
      { preventDefault: false },
    ]),
    ['BracketLeft', () => nextPiece(-1), { usePhysicalKeys: true }],
    ['BracketRight', () => nextPiece(1), { usePhysicalKeys: true }],
    ['f', nextFinding],
    ['Escape', () => choose(undefined)],
    ['mod+z', editor.undo],
    ['mod+y', editor.redo],
    ['mod+shift+z', editor.redo],
    ['shift+?', onOpen],
  ]);
  return (
    <Modal opened={opened} onClose={onClose} title="Keys" centered>
      <dl className={css.keys}>
        {KEYS.map(([key, does]) => (
          <div key={key}>
            <dt>
              <Kbd>{key}</Kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
