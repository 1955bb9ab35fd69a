import type { Job, Library, Plan } from '#core';
import { replaceEqualDeep } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { Answer, Ask } from './worker.ts';

export type Planning = {
  /** The newest plan there is. It stays until the next one comes. */
  readonly plan: Plan | undefined;
  /** The plan is of this very job. */
  readonly current: boolean;
  /** Why the newest job could not be planned. */
  readonly problem: string | undefined;
  /** Findings of this plan whose fix was tried, and does what it says. */
  readonly sound: readonly string[];
  /** Is the list of findings open? Fixes of what it does not show are not tried. */
  readonly openList: (open: boolean) => void;
};

const NONE: readonly string[] = [];

/** What a plan depends on: ticking a line as done, or another name, changes nothing about the roof. */
const roofOf = (job: Job): string => JSON.stringify({ ...job, name: '', note: '', done: [], holdsBar: undefined });

/** A planner without a job: the first plan of a new one takes several times as long as the next. */
let resting: Worker | undefined;

function plannerFor(library: Library): Worker {
  const worker = resting ?? new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  resting = undefined;
  worker.postMessage({ library } satisfies Ask);
  return worker;
}

function rest(worker: Worker): void {
  worker.onmessage = null;
  // it tries no more fixes on a roof nobody looks at
  worker.postMessage({ library: undefined } satisfies Ask);
  resting?.terminate();
  resting = worker;
}

/** Plans the job in a worker, so that typing never waits. Of the jobs that come while it plans, only the newest is planned next. */
export function usePlan(job: Job, library: Library): Planning {
  const [plan, setPlan] = useState<Plan>();
  const [sound, setSound] = useState<readonly string[]>(NONE);
  const [answered, setAnswered] = useState<{ readonly roof: string; readonly problem?: string }>();
  const [listOpen, openList] = useState(false);
  const planner = useRef<Worker>(undefined);
  const ask = useRef<(job: Job, roof: string) => void>(undefined);
  const roof = roofOf(job);
  useEffect(() => {
    const worker = plannerFor(library);
    planner.current = worker;
    let planning: string | undefined;
    let next: { job: Job; roof: string } | undefined;
    const send = (job: Job, roof: string): void => {
      planning = roof;
      worker.postMessage({ job } satisfies Ask);
    };
    ask.current = (job, roof) => {
      if (planning === undefined) send(job, roof);
      else next = planning === roof ? undefined : { job, roof };
    };
    worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      // of a plan before: what is asked now will be answered for itself
      if ('sound' in data) return void (planning === undefined && setSound(data.sound));
      // what is as it was stays the very same, and is not drawn anew
      if ('plan' in data) setPlan((before) => replaceEqualDeep(before, data.plan));
      setSound(NONE);
      setAnswered({ roof: planning!, ...('problem' in data && { problem: data.problem }) });
      planning = undefined;
      if (next) send(next.job, next.roof);
      next = undefined;
    };
    return () => (planning === undefined ? rest(worker) : worker.terminate());
  }, [library]);
  useEffect(() => planner.current?.postMessage({ listOpen } satisfies Ask), [listOpen, library]);
  // what else the job says has no part in its plan
  const askNow = useEffectEvent(() => ask.current?.(job, roof));
  useEffect(() => askNow(), [roof, library]);
  const here = answered?.roof === roof;
  return {
    plan,
    current: here && answered.problem === undefined,
    problem: here ? answered.problem : undefined,
    sound: here ? sound : NONE,
    openList,
  };
}
