import type { Remedy, Words } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';

/** Does to a job what a finding's fix says. */
export function applyRemedy(job: Job, remedy: Remedy): void {
  switch (remedy.does) {
    case 'set exposure': {
      const record = job.parts.flatMap(({ planes }) => planes).find(({ id }) => id === remedy.plane);
      if (record) record.exposure = remedy.exposure;
      return;
    }
    case 'move': {
      const feature = job.features.find(({ id }) => id === remedy.feature);
      if (feature && 'across' in feature) feature.across.distance += feature.across.from === 'left' ? remedy.by : -remedy.by;
      return;
    }
    case 'set nails':
      job.deviations = [
        ...job.deviations.filter(({ key }) => key !== 'covering.nails'),
        { key: 'covering.nails', sense: 'atLeast', value: remedy.nails, unit: 'count', reason: remedy.reason },
      ];
      return;
    case 'set base': {
      const pipe = job.features.find(({ id }) => id === remedy.feature);
      if (pipe?.kind === 'pipe') pipe.boot = remedy.product;
    }
  }
}

/** What the button says that does it. */
export function remedyWords(remedy: Remedy): Words {
  switch (remedy.does) {
    case 'set exposure':
      return ['Set ', { mm: remedy.exposure, inchesOnly: true }, ' on this slope'];
    case 'move':
      return [
        `Move ${remedy.feature} `,
        { mm: Math.abs(remedy.by), inchesOnly: true },
        ` ${remedy.by > 0 ? 'right' : 'left'}: ${remedy.so}`,
      ];
    case 'set nails':
      return [`Set ${remedy.nails} nails in each shingle`];
    case 'set base':
      return [`Take ${remedy.name} for ${remedy.feature}`];
  }
}
