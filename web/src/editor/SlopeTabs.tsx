import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { usePlanned, useSlope } from './context.ts';
import css from './SlopeTabs.module.css';

/** The slopes of the roof side by side, to step from one to the next; nothing where there is only one. */
export function SlopeTabs() {
  const { plan } = usePlanned();
  const { plane, setPlane } = useSlope();
  const step = (by: 1 | -1): void => {
    const at = plan.planes.findIndex(({ id }) => id === plane.id);
    setPlane(plan.planes.at((at + by + plan.planes.length) % plan.planes.length)!.id);
  };
  useHotkeys([
    ['shift+ArrowRight', () => step(1)],
    ['shift+ArrowLeft', () => step(-1)],
  ]);
  if (plan.planes.length === 1) return null;
  return (
    <div className={css.slopeTabs} role="group" aria-label="Slopes of the roof">
      {plan.planes.map(({ id, name }) => (
        <Button
          key={id}
          size="xs"
          variant={id === plane.id ? 'filled' : 'default'}
          className={css.slope}
          aria-pressed={id === plane.id}
          onClick={() => setPlane(id)}
        >
          {name}
        </Button>
      ))}
    </div>
  );
}
