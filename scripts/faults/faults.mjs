/**
 * Faults that a test has to notice, each planted by itself: a name, the file below core/src, the text it replaces (there once) and what it puts there.
 * A fault that no longer applies fails the script: write it anew, do not drop it.
 */
export const FAULTS = [
  // what once lived unnoticed
  [
    'end laps of neighbouring rows of barrier and felt in one line',
    'underlayers/strips.ts',
    'index % 2 === 1 && end - start > stock',
    'index < 0 && end - start > stock',
  ],
  [
    'nails of edge metal three times too far apart',
    'underlayers/edgeMetal.ts',
    "const spacing = mostOf(rules, 'edgeMetal.fastenerSpacing');",
    "const spacing = 3 * mostOf(rules, 'edgeMetal.fastenerSpacing');",
  ],
  [
    'edge metal butted without a lap',
    'underlayers/edgeMetal.ts',
    "const lap = leastOf(rules, 'edgeMetal.lap');",
    'const lap = 0 * rules.size;',
  ],
  [
    'four times the ridge caps',
    'coverings/ridge.ts',
    'whole: stepsToReach(blocked ? run : countedLength, cap.exposure)',
    'whole: 4 * stepsToReach(blocked ? run : countedLength, cap.exposure)',
  ],
  [
    'twice the starters',
    'coverings/strip/starter.ts',
    'const whole = Math.floor((run + LINE_TOLERANCE) / starter.width);',
    'const whole = 2 * Math.floor((run + LINE_TOLERANCE) / starter.width);',
  ],
  [
    'counterflashing in a reglet without laps',
    'details/counterflashing/reglet.ts',
    'const pieces = cutRun(before + run + after, stock.length, lap)',
    'const pieces = cutRun(before + run + after, stock.length, 0 * lap)',
  ],
  [
    'valley lining without laps',
    'details/valley/lining.ts',
    "const lap = leastOf(rules, 'valley.liningLap');",
    'const lap = 0 * rules.size;',
  ],
  [
    'lines of the run sheet numbered through, so that an id moves with what is before it',
    'sequence/runSheet.ts',
    'id: count === 0 ? base : `${base}.${count}`',
    'id: `${base}.${i}`',
  ],
  [
    'thickness of a step not looked at',
    'catalog/choose.ts',
    "(['length', 'roofLeg', 'wallLeg', 'thickness'] as const).filter((side) =>",
    "(['length', 'roofLeg', 'wallLeg'] as const).filter((side) =>",
  ],
  ['strips of half a roll ordered as whole ones', 'takeoff/order.ts', '...half.filter((_, i) => i % 2 === 0)', '...half'],
  [
    'a slope begun without what it waits for',
    'plan/frame.ts',
    '...evenings(roof), driedIn(roof), ...gates(roof), ...handOver(roof)',
    '...evenings(roof), driedIn(roof), ...handOver(roof)',
  ],
  ['two openings at a time', 'assembly/lay.ts', '[STAGE.opening, order, x, line, 0]', '[STAGE.opening, order, line, x, 0]'],
  [
    'masonry opened over what is laid already',
    'assembly/lay.ts',
    '[STAGE.masonry, order, x, line, 0]',
    '[STAGE.ridge, order, x, line, 0]',
  ],
  ['a stop that bars nothing', 'sequence/runSheet.ts', 'if (stop) barred.set(line.id, stop);', ''],
  [
    'no stop before a trough is covered',
    'details/chimney/back.ts',
    'holdPoint: `trough open, seams ${seamOf(context.covering.metal)}`,',
    '',
  ],
  [
    'no stop before the strip over the steps is closed',
    'details/sidewall/finish.ts',
    "holdPoint: context.surface.sides === 'steps' ? 'strip over every step' : 'strip on the metal all the way up',",
    '',
  ],
  [
    'a channel’s side keeps no water in',
    'drainage/fall.ts',
    "heldBelow(water, cell, layer) === 'letIn'",
    "heldBelow(water, cell, layer) === 'sealed'",
  ],
  [
    'a channel’s lengths do not lap',
    'details/sidewall/channel/channel.ts',
    "leastOf(rules, 'channel.lap')).map((stretch, i)",
    '0).map((stretch, i)',
  ],
  [
    'no stop before barrier is covered',
    'underlayers/barrier.ts',
    "? { holdPoint: 'barrier on bare deck, not on felt, far enough up' }",
    '? {}',
  ],
  [
    'barrier asked for though no rule wants it',
    'underlayers/barrier.ts',
    "if (!isRequired(rules, 'iceBarrier.required')) return undefined;",
    "if (!isRequired(rules, 'iceBarrier.required') && rules.size === 0) return undefined;",
  ],
  // units
  [
    'feet of ten inches',
    'units/length.ts',
    'const feet = Math.floor(sixteenths / 192);',
    'const feet = Math.floor(sixteenths / 160);',
  ],
  [
    'one step too many where the run comes out whole',
    'units/tolerances.ts',
    'Math.ceil((length - LINE_TOLERANCE) / step)',
    'Math.ceil((length + LINE_TOLERANCE) / step)',
  ],
  // roof
  ['a cricket’s table height twice too high', 'roof/cricket.ts', '=> (pitch * width) / 2;', '=> pitch * width;'],
  [
    'water in a valley half as deep',
    'roof/valleyWater.ts',
    'const SHEET_METAL_ROUGHNESS = 0.012;',
    'const SHEET_METAL_ROUGHNESS = 0.004;',
  ],
  // rules
  [
    'the laxer of two firm sources governs',
    'rules/resolve.ts',
    "(side === 'least' ? a > b : a < b)",
    "(side === 'least' ? a < b : a > b)",
  ],
  [
    'yes against no passes without a word',
    'rules/resolve.ts',
    'if (yes && deciding.some((word) => !word.yes)) {',
    'if (!yes && deciding.some((word) => word.yes)) {',
  ],
  ['what was decided on the roof below a rule is no finding', 'rules/resolve.ts', "if (below) status = 'deviated';", ''],
  // catalog
  [
    'the largest sealant tube instead of the package asked for',
    'catalog/choose.ts',
    'item.use === use && item.tubeMillilitres <= most',
    'item.use === use',
  ],
  [
    'a nail shorter than asked for',
    'catalog/choose.ts',
    'item.use === use && isAtLeast(item.length, length)',
    'item.use === use && isAtLeast(item.length, length / 2)',
  ],
  // assembly
  [
    'a closing piece of a few inches',
    'assembly/runs.ts',
    'const short = to >= run - LINE_TOLERANCE && to - from < SHORT_PIECE;',
    'const short = false;',
  ],
  [
    'a blank that fits only turned round is parted',
    'assembly/flatStock.ts',
    '[split(blank.width, sheet.length), split(blank.length, sheet.width)],',
    '[split(blank.width, sheet.width), split(blank.length, sheet.length)],',
  ],
  // surface
  [
    'a step for the course under the wall too',
    'surface/lines.ts',
    'const first = lastCourseAtOrBelow(lines, from);',
    'const first = Math.max(1, lastCourseAtOrBelow(lines, from) - 1);',
  ],
  [
    'lines above a measured one stay where they were',
    'surface/lines.ts',
    'return at[n - 1] ?? at.at(-1)! + (n - at.length) * gauge;',
    'return at[n - 1] ?? first + (n - 1) * gauge;',
  ],
  // document
  [
    'skylights spread from wall to wall without the last gap',
    'roof/spans.ts',
    'const gap = (to - from - count * width) / (count + 1);',
    'const gap = (to - from - count * width) / count;',
  ],
  [
    'what was set inside the wall line for the job is forgotten',
    'document/library.ts',
    'if (inside !== null) {',
    'if (inside !== null && inside < 0) {',
  ],
  [
    'a hot flue may be plastic',
    'document/applies.ts',
    "set('material', 'material', !feature.hot, 'metal', 'a hot flue is metal'),",
    '',
  ],
  // slope
  [
    'the wall leg behind masonry does not reach the counterflashing',
    'slope/steps.ts',
    "wallLeg: Math.max(leastOf(rules, 'stepFlashing.wallLeg'), counter),",
    "wallLeg: leastOf(rules, 'stepFlashing.wallLeg') + 0 * counter,",
  ],
  [
    'ears of an apron not carried up to a corner piece that starts high',
    'slope/standing.ts',
    'Math.max(0, Math.max(buttLine(lines, lastCourseAtOrBelow(lines, y)), y - leg) + EAR_LAP - y)',
    '0 * (EAR_LAP + leg + y + lastCourseAtOrBelow(lines, y) + buttLine(lines, 1))',
  ],
  [
    'the joint for a stepped counterflashing not above the membrane',
    'slope/counterSteps.ts',
    "Math.max(wallLeg, leastOf(context.rules, 'wallMembrane.up'))",
    'wallLeg + 0 * context.angle',
  ],
  // coverings
  [
    'joints over the joints below',
    'coverings/strip/joints.ts',
    'if (nearest < bond.apart - LINE_TOLERANCE) cost',
    'if (nearest < 0) cost',
  ],
  [
    'shingle nails at the edge of what they hold',
    'coverings/strip/nails.ts',
    'export const END_NAIL = inches(1);',
    'export const END_NAIL = inches(0.1);',
  ],
  [
    'a first butt that hangs too far is no finding',
    'coverings/strip/findings.ts',
    "isOver(-lines.first, mostOf(rules, 'covering.firstButt'))",
    "isOver(-1, mostOf(rules, 'covering.firstButt'))",
  ],
  // underlayers
  [
    'barrier that ends at the wall line',
    'underlayers/extent.ts',
    'input.overhang + input.wallThickness + input.insideWall',
    'input.overhang + input.wallThickness + 0 * input.insideWall',
  ],
  [
    'two layers of felt that lap no more than one',
    'underlayers/extent.ts',
    'Math.max(sideLap, width / 2)',
    'Math.max(sideLap, width / 20)',
  ],
  // details
  [
    'one nail in each step where two are wanted',
    'details/sidewall/steps.ts',
    "const nails = leastOf(rules, 'stepFlashing.nails');",
    "const nails = Math.min(1, leastOf(rules, 'stepFlashing.nails'));",
  ],
  ['an apron without ears', 'details/headwall/apron.ts', 'x0: front.x0 - ears[0],', 'x0: front.x0 - 0 * ears[0],'],
  [
    'a boot that is too small is no finding',
    'details/pipe/findings.ts',
    'if (leg.chosen && (isUnder(leg.diameter, boot.least)',
    'if (!leg.chosen && (isUnder(leg.diameter, boot.least)',
  ],
  [
    'cleats twice as far apart',
    'details/valley/lining.ts',
    "stepsToReach(length, mostOf(rules, 'valley.cleats'))",
    "stepsToReach(length, 2 * mostOf(rules, 'valley.cleats'))",
  ],
  ['one weep too few', 'details/throughWall/size.ts', 'stepsToReach(run, spacing) + 1', 'stepsToReach(run, spacing)'],
  // drainage
  [
    'water does not creep in at a slanting edge',
    'drainage/creep.ts',
    'if (creeps) creepPastSlant(water, state, from);',
    'if (creeps && layer < 0) creepPastSlant(water, state, from);',
  ],
  [
    'water that climbs past an upper edge does not spill behind it',
    'drainage/climb.ts',
    "seep(water, highestUpTo(mesh, cell, layer - 1), { ...part, d0: 0, d1: 0 }, from, 'spills behind', why),",
    'void why,',
  ],
  [
    'a rising edge spills all along as soon as it is reached anywhere',
    'drainage/climb.ts',
    'if (!(rise > SPILLS_AT_ONCE) || rise === FAR) return [by];',
    'if (rise !== FAR) return [by];',
  ],
  [
    'rake metal lies under the lining at a valley’s foot',
    'underlayers/edgeMetal.ts',
    '...(metal.overLining',
    '...(metal.overLining && metal.rank < 0',
  ],
  [
    'tiles are nailed through a valley’s lining',
    'coverings/tile/covering.ts',
    'return near ? [near] : [];\n  });\n}',
    'return near ? [] : [];\n  });\n}',
  ],
  [
    'what goes on past a slope’s top covers nothing',
    'coverings/courses.ts',
    "if (plane.top !== 'continues') return [];",
    "if (plane.top !== 'wall') return [];",
  ],
  // sequence and takeoff
  ['one crew sees the lines of all', 'sequence/runSheet.ts', '(crew === undefined || crewOf(line) === crew)', 'crew !== null'],
  ['offcuts are thrown away', 'takeoff/packCuts.ts', 'const found = open[at];', 'const found = open[open.length + at];'],
  [
    'sheet metal ordered by area alone',
    'takeoff/packFlatStock.ts',
    'return { needed: sheets.count(),',
    'return { needed: Math.ceil(turned.reduce((sum, one) => sum + one.width * one.length, 0) / (sheet.width * sheet.length)),',
  ],
  // plan
  ['two walls with one mark pass', 'plan/check.ts', 'if (marks.has(wall.id))', 'if (marks.has(`${wall.id}?`))'],
  [
    'a feature in what a wall takes up passes',
    'plan/check.ts',
    "say('across.distance', 'place: a wall takes up that part of the slope.');",
    'void say;',
  ],
  [
    'half the floor’s net free area asked',
    'plan/ventilation.ts',
    'needed: floor / onePartIn,',
    'needed: floor / (2 * onePartIn),',
  ],
  [
    'vents balanced by what comes in, not what goes out',
    'plan/ventilation.ts',
    'exhaust / (exhaust + intake) : 0;',
    'intake / (exhaust + intake) : 0;',
  ],
  ['more stripped than a day’s work', 'plan/reroof.ts', 'Math.ceil(area / perDay - NOISE)', 'Math.floor(area / perDay + 0.5)'],
  ['no course more off at a head', 'plan/repair.ts', 'const MORE_AT_HEAD = 2;', 'const MORE_AT_HEAD = 0;'],
  [
    'caps left on over courses that come off',
    'plan/repair.ts',
    'if (to < lines.count) return undefined;',
    'if (to > 0) return undefined;',
  ],
  ['what is graver than worth a look is muted', 'plan/muted.ts', "severity === 'worth a look';", "severity !== 'leaks';"],
  ['a fix that brings another as grave is offered', 'plan/remedy.ts', '<= gravity);', '< gravity);'],
  // more of the covering and its details
  [
    'joints of two layers over each other',
    'coverings/strip/dummyCourse.ts',
    'Math.abs(x - joint) >= LAYERS_APART - LINE_TOLERANCE',
    'Math.abs(x - joint) >= 0 * LAYERS_APART - LINE_TOLERANCE',
  ],
  [
    'nails of the lower layer under the joints of the upper',
    'coverings/strip/dummyCourse.ts',
    'nailPiece(clear, piece,',
    'nailPiece(ground ?? clear, piece,',
  ],
  [
    'field nails right above the head flashing',
    'details/skylight/asks.ts',
    'upBehind(lines, unit, HEAD_UP) + NAIL_ABOVE_HEAD',
    'upBehind(lines, unit, HEAD_UP) + 0 * NAIL_ABOVE_HEAD',
  ],
  [
    'a step under a course that an apron takes the place of',
    'details/sidewall/side.ts',
    'short || underApron ? last - 1 : last',
    'short || (underApron && last < 0) ? last - 1 : last',
  ],
  ['no spare of the covering', 'takeoff/order.ts', "share(spare.covering, 'breakage')", "share(0 * spare.covering, 'breakage')"],
  // tile
  ['field courses of tile left unnailed', 'coverings/tile/covering.ts', 'n % fixing.every === 0;', 'n % fixing.every < 0;'],
  ['broken bond laid straight', 'surface/surface.ts', 'broken && course % 2 === 0 ?', 'broken && course < 0 ?'],
  [
    'tiles never opened to fill the slope',
    'coverings/tile/columns.ts',
    'return last === 0 ? tile.cover + opened',
    'return last < 0 ? tile.cover + opened',
  ],
  [
    'no headlap of the tile kept',
    'coverings/tile/gauge.ts',
    'const largest = length - headlap;',
    'const largest = length - 0 * headlap;',
  ],
  [
    'cover flashing on tiles short of a crown',
    'slope/cover.ts',
    "off + leastOf(context.rules, 'cover.pastCrown')",
    "off - leastOf(context.rules, 'cover.pastCrown')",
  ],
  [
    'water in a pan stays where it fell',
    'drainage/creep.ts',
    'if (crowns && inPan(water, state, next, side, from, crowns)) continue;',
    'if (false && inPan(water, state, next, side, from, crowns ?? [])) continue;',
  ],
  // tile
  [
    'a batten that lies unbroken dams nothing',
    'drainage/fall.ts',
    'if (standsAtBatten(water, state, from)) return;',
    'if (from.x0 > from.x1 + 1e9 && standsAtBatten(water, state, from)) return;',
  ],
  [
    'what is turned up beside a wall lets water past',
    'details/sidewall/side.ts',
    "isFree(from) && isFree(to) ? 'letIn' : 'open'",
    "isFree(from) && isFree(to) ? 'open' : 'open'",
  ],
  [
    'counter-battens not ordered',
    'coverings/tile/battens.ts',
    'uses: [lengths(item, item.name, cuts)],',
    'uses: [lengths(item, item.name, cuts.slice(1))],',
  ],
  [
    'no clip for a tile without room for its nail',
    'coverings/tile/covering.ts',
    'if (!isClipped) clips++;',
    'if (isClipped) clips += 0;',
  ],
  [
    'a formed base whose rim is not stuck',
    'details/pipe/pipe.ts',
    "({ ...cover, holds: ['sealed'] })",
    "({ ...cover, holds: ['open'] })",
  ],
  [
    'no foot under a valley that begins on tile',
    'details/valley/valley.ts',
    "valley.style === 'open' ? planFoot(one) : emptyAssembly",
    "valley.style === 'woven' ? planFoot(one) : emptyAssembly",
  ],
  [
    'a base turned the wrong way round',
    'details/pipe/boot.ts',
    "turned === 'left' ? [head, centre] : [centre, head]",
    "turned === 'right' ? [head, centre] : [centre, head]",
  ],
  [
    'columns numbered from nought',
    'surface/surface.ts',
    'Math.floor((x - start) / columns.width) + 1',
    'Math.floor((x - start) / columns.width)',
  ],
  // exchange
  [
    'a line of the run sheet in CSV without its stop',
    'exchange/csv.ts',
    "line.holdPoint ? holdWords(line.holdPoint) : '',",
    "'',",
  ],
];
