import { useMediaQuery } from '@mantine/hooks';
import { useState } from 'react';
import { Findings } from '../findings/Findings.tsx';
import { Measures } from '../measures/Measures.tsx';
import { PieceCard } from '../piece/PieceCard.tsx';
import { RunSheet } from '../runsheet/RunSheet.tsx';
import { SlopeView } from '../slope/SlopeView.tsx';
import { SlopeTabs } from './SlopeTabs.tsx';
import { useView } from './context.ts';
import css from './SlopePage.module.css';

const PANES = [
  { id: 'run', label: 'Run sheet' },
  { id: 'slope', label: 'Slope' },
  { id: 'measures', label: 'Measures' },
] as const;
type Pane = (typeof PANES)[number]['id'];

/** Measures, the slope with its pole, and the run sheet: side by side, or one at a time on a phone, run sheet first. */
export function SlopePage() {
  const phone = useMediaQuery('(max-width: 820px)', false, { getInitialValueInEffect: false });
  const { chosen, reveal } = useView();
  const [wanted, setWanted] = useState<{ readonly pane: Pane; readonly reveal: number }>({ pane: 'run', reveal: 0 });
  // what is to be revealed since then is on the slope
  const pane = reveal > wanted.reveal ? 'slope' : wanted.pane;
  const setPane = (next: Pane): void => setWanted({ pane: next, reveal });
  if (phone) {
    return (
      <main className={css.phone}>
        <Findings />
        <div className={css.phonePane}>
          {pane === 'run' && <RunSheet />}
          {pane !== 'measures' && <SlopeTabs />}
          {pane === 'slope' && <SlopeView />}
          {pane === 'measures' && <Measures />}
        </div>
        {chosen && pane !== 'measures' && <PieceCard />}
        <nav className={css.phoneTabs} aria-label="Parts of the job">
          {PANES.map(({ id, label }) => (
            <button
              key={id}
              type="button"
              className={pane === id ? 'on' : ''}
              aria-pressed={pane === id}
              onClick={() => setPane(id)}
            >
              {label}
            </button>
          ))}
        </nav>
      </main>
    );
  }
  return (
    <main className={css.slopePage}>
      <aside className="left-column" aria-label="Measures of the roof">
        <Measures />
      </aside>
      <section className="middle-column" aria-label="Slope">
        <Findings />
        <SlopeTabs />
        <SlopeView />
        {chosen && <PieceCard />}
      </section>
      <aside className="right-column" aria-label="Order of work">
        <RunSheet />
      </aside>
    </main>
  );
}
