import type { Assembly } from '@ruvet/core';
import { useEffect, useRef, useState } from 'react';
import type { Answer, Ask } from './worker.ts';

/** Only what the water needs goes to the worker. */
const lean = ({ facets, joints, pieces, fasteners, drifts }: Assembly): Assembly => ({
  drifts,
  sheets: [],
  facets,
  joints,
  pieces,
  fasteners,
  zones: [],
  steps: [],
  findings: [],
});

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
  const running = useRef<Worker>(undefined);
  useEffect(() => {
    if (!ask) {
      setAnswer(undefined);
      setProgress(undefined);
      return;
    }
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    running.current = worker;
    setProgress(0);
    worker.addEventListener('message', ({ data }: MessageEvent<Answer>) => {
      if (data.what === 'progress') setProgress(data.share);
      else {
        setAnswer(data as AnswerOf<K>);
        setJudged({ assembly: ask.assembly, key });
        setProgress(undefined);
        worker.terminate();
      }
    });
    worker.postMessage({ ...ask, assembly: lean(ask.assembly) });
    return () => worker.terminate();
    // the key names all that the question depends on besides the assembly
  }, [ask?.assembly, key]);
  const cancel = (): void => {
    running.current?.terminate();
    setProgress(undefined);
  };
  return { answer, current: judged?.assembly === ask?.assembly && judged?.key === key, progress, cancel };
}
