import { type Assembly, cut, emptyAssembly, wallFinish } from '../../assembly/index.ts';
import { rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, claddingWords, frontFacet, turnedUpFront } from '../../slope/index.ts';
import { ownerOf } from './membrane.ts';

export function planCladding(context: PlaneContext, front: Front): Assembly {
  const clear = leastOf(context.rules, 'cladding.clearance') + context.surface.thickness;
  const what = claddingWords(context, front.cladding);
  const mark = `${front.id}-CL`;
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: ownerOf(front),
        role: 'cladding',
        covers: [
          {
            facet: frontFacet(context, front),
            outline: rectangle(front.x0, clear, front.x1, Math.max(front.height, clear + 1)),
            holds: ['open'],
          },
        ],
        lay: wallFinish(context, 'face', front.x0, front.y),
        liesOn: [turnedUpFront(front)],
        keys: ['cladding.clearance'],
      },
    ],
    steps: [
      {
        lay: wallFinish(context, 'face', front.x0, front.y),
        detail: ownerOf(front),
        stage: 'finish',
        action: [
          `${front.name}: close with ${what}, lapped over ${front.apron === 'left out' ? 'the sheet turned up the wall' : 'the apron’s wall leg'}; lower edge `,
          cut(leastOf(context.rules, 'cladding.clearance')),
          ' clear of the covering.',
        ],
        pieces: [mark],
        people: 2,
        keys: ['cladding.clearance'],
      },
    ],
  };
}
