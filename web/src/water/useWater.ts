import type { Assembly } from '#core';
import { useEffect, useRef, useState } from 'react';
import type { Answer, Ask } from './worker.ts';

/** Only what the water needs goes to the worker. */
const lean = ({ facets, joints, pieces, fasteners, drifts }: Assembly): Assembly => ({
  drifts,
  panels: [],
  facets,
  joints,
  pieces,
  fasteners,
  zones: [],
  steps: [],
  findings: [],
});

const CALM_MS = 250;

type Kind = Exclude<Answer['what'], 'progress'>;
type AnswerOf<K extends Kind> = Extract<Answer, { what: K }>;

/**
 * Asks the water in a worker of its own; a new question cancels the one before. `ask` undefined asks nothing. The last answer stays
 * until the next one is there; `current` tells whether it is this question's.
 */
export function useWater<K extends Kind>(
  ask: Extract<Ask, { what: K }> | undefined,
  key: string,
): { answer: AnswerOf<K> | undefined; current: boolean; progress: number | undefined; cancel: () => void } {
  const [answer, setAnswer] = useState<AnswerOf<K>>();
  const [judged, setJudged] = useState<{ assembly: Assembly; key: string }>();
  const [progress, setProgress] = useState<number>();
  const stop = useRef<() => void>(undefined);
  // one that has answered waits for the next question: starting one takes as long as many an answer
  const idle = useRef<Worker>(undefined);
  useEffect(() => () => idle.current?.terminate(), []);
  useEffect(() => {
    if (!ask) {
      setAnswer(undefined);
      setProgress(undefined);
      return;
    }
    let running: Worker | undefined;
    const start = (): void => {
      const worker = idle.current ?? new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
      idle.current = undefined;
      running = worker;
      worker.onmessage = ({ data }: MessageEvent<Answer>) => {
        if (data.what === 'progress') return setProgress(data.share);
        idle.current = worker;
        running = undefined;
        setAnswer(data as AnswerOf<K>);
        setJudged({ assembly: ask.assembly, key });
        setProgress(undefined);
      };
      worker.postMessage({ ...ask, assembly: lean(ask.assembly) });
    };
    setProgress(0);
    // while somebody types plan follows on plan: only one that stays a moment is judged
    const soon = setTimeout(start, judged ? CALM_MS : 0);
    stop.current = () => {
      clearTimeout(soon);
      running?.terminate();
      running = undefined;
    };
    return stop.current;
    // the key names all that the question depends on besides the assembly
  }, [ask?.assembly, key]);
  const cancel = (): void => {
    stop.current?.();
    setProgress(undefined);
  };
  return { answer, current: judged?.assembly === ask?.assembly && judged?.key === key, progress, cancel };
}
