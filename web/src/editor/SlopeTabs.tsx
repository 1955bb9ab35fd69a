import { useHotkeys } from '@mantine/hooks';
import { usePlanned, useSlope } from './context.ts';

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
    <div className="slope-tabs" role="group" aria-label="Slopes of the roof">
      {plan.planes.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          className={id === plane.id ? 'on' : ''}
          aria-pressed={id === plane.id}
          onClick={() => setPlane(id)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
