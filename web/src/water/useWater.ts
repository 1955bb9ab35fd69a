import type { Assembly } from '#core';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
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

/** What was asked: the same assembly and key are the same question. */
type Question = { readonly assembly: Assembly; readonly key: string };

/** Workers that have answered wait for the next question: starting one takes as long as many an answer. */
const idle: Worker[] = [];
/** The findings and the lap bench ask at the same time. */
const MAX_IDLE = 2;
/** One that nobody waits for any more may so long finish what it does. */
const LAST_MS = 1500;

function rest(worker: Worker): void {
  worker.onmessage = null;
  if (idle.length < MAX_IDLE) idle.push(worker);
  else worker.terminate();
}

/** Its answer comes too late: it rests when it is done, unless that takes long. */
function leave(worker: Worker): void {
  const ended = setTimeout(() => worker.terminate(), LAST_MS);
  worker.onmessage = ({ data }: MessageEvent<Answer>) => {
    if (data.what === 'progress') return;
    clearTimeout(ended);
    rest(worker);
  };
}

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
  const [judged, setJudged] = useState<Question>();
  const [progress, setProgress] = useState<Question & { readonly share: number | undefined }>();
  const stop = useRef<() => void>(undefined);
  const assembly = ask?.assembly;
  const isOf = (one: Question | undefined): boolean => one?.assembly === assembly && one?.key === key;
  // nothing asked: the last answer is no answer to what is asked next
  if (!ask && answer) setAnswer(undefined);
  const question = useEffectEvent(() => ask);
  /** While somebody types plan follows on plan: only one that stays a moment is judged. */
  const calm = useEffectEvent(() => (judged ? CALM_MS : 0));
  // the key names all that the question depends on besides the assembly
  useEffect(() => {
    const asked = question();
    if (!asked || !assembly) return;
    let running: Worker | undefined;
    const start = (): void => {
      const worker = idle.pop() ?? new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
      running = worker;
      worker.onmessage = ({ data }: MessageEvent<Answer>) => {
        if (data.what === 'progress') return setProgress({ assembly, key, share: data.share });
        rest(worker);
        running = undefined;
        setAnswer(data as AnswerOf<K>);
        setJudged({ assembly, key });
      };
      worker.postMessage({ ...asked, assembly: lean(assembly) });
    };
    const soon = setTimeout(start, calm());
    stop.current = () => {
      clearTimeout(soon);
      if (running) leave(running);
      running = undefined;
    };
    return stop.current;
  }, [assembly, key]);
  const cancel = (): void => {
    stop.current?.();
    if (assembly) setProgress({ assembly, key, share: undefined });
  };
  const current = isOf(judged);
  const share = isOf(progress) ? progress!.share : 0;
  return { answer: ask ? answer : undefined, current, progress: !ask || current ? undefined : share, cancel };
}
