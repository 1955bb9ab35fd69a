import { ActionIcon, Button, Checkbox, Table } from '@mantine/core';
import { IconPlus, IconRuler2, IconTrash } from '@tabler/icons-react';
import {
  COMPASS,
  type Item,
  type Job,
  type PlaneRecord,
  type Ventilation,
  type Wall,
  buttLine,
  compass,
  itemsOf,
  newFeature,
  newWall,
  USUAL_SLANT,
} from '#core';
import { useState } from 'react';
import { useEditing, usePlanned, useSlope } from '../editor/context.ts';
import { HeadRow } from '../editor/HeadRow.tsx';
import { CoveringSection, SHOWN, UnderlayerSection } from './coverings/CoveringSection.tsx';
import { CavityWallFields, COUNTERS, Features } from './Features.tsx';
import { CLADDINGS, PartMeasures } from './PartMeasures.tsx';
import {
  AreaField,
  ChoiceField,
  CountField,
  EitherField,
  FieldError,
  LengthField,
  Section,
  SwitchField,
  TextField,
  fieldsOf,
} from './fields.tsx';
import { WorkSection } from './WorkSection.tsx';
import css from './Measures.module.css';

const named = (items: readonly Item[]) => items.map(({ id, name, maker }) => ({ value: id, label: `${name}, ${maker}` }));

/** What the tape brought back: the slope, its covering, what goes under it, and the walls it meets. */
export function Measures() {
  const { job } = useEditing();
  const { measured } = useSlope();
  const site = fieldsOf(job.site, (draft) => draft.site);
  return (
    <form className="measures" aria-label="Measures" onSubmit={(event) => event.preventDefault()}>
      <WorkSection />
      <SlopeSection />
      {measured.walls.map((wall, i) => (
        <WallSection key={wall.id} wall={wall} index={i} />
      ))}
      <AddWall />
      <Features />
      <CoveringSection />
      <UnderlayerSection />
      <Section title="Site">
        {site.onOff('iceDams', 'Ice dams on record', { rule: 'iceBarrier.required' })}
        {site.length('rainPerHour', 'Rain in an hour', { hint: 'Local 5-minute figure' })}
        {site.percent('drivenRainShare', 'Rain driven on to walls')}
        <WindFields />
      </Section>
      <VentilationSection />
      <PackSection />
    </form>
  );
}

/** Where the weather comes from: asked once a roof, and left out until it is. */
function WindFields() {
  const { job } = useEditing();
  const { wind } = job.site;
  return (
    <>
      <ChoiceField
        label="Weather comes from"
        value={wind === null ? '' : compass(wind.from)}
        options={[{ value: '', label: 'Not said yet' }, ...COMPASS.map((value) => ({ value, label: `the ${value}` }))]}
        set={(draft, value) => {
          const from = COMPASS.findIndex((point) => point === value) * 45;
          draft.site.wind = value === '' ? null : { from, exposed: draft.site.wind?.exposed ?? false };
        }}
      />
      {wind && (
        <SwitchField
          label="Open to the wind"
          value={wind.exposed}
          set={(draft, exposed) => void (draft.site.wind!.exposed = exposed)}
        />
      )}
    </>
  );
}

const EXHAUSTS = {
  undecided: 'Not decided yet',
  'ridge vent': 'Ridge vent',
  'as it is': 'What is there stays',
  none: 'Not vented',
} as const;

/** How the space under the roof is vented, with what that comes to. */
function VentilationSection() {
  const { job, units } = useEditing();
  const { plan } = usePlanned();
  const { ventilation } = job;
  const made = plan.ventilation;
  return (
    <Section title="Ventilation">
      <ChoiceField
        label="Lets air out"
        rule="ventilation.balanced"
        value={ventilation?.exhaust ?? 'undecided'}
        options={EXHAUSTS}
        set={(draft, exhaust) => {
          const vented = draft.ventilation && 'floor' in draft.ventilation ? draft.ventilation : { floor: 0, intake: 0 };
          const { floor, intake } = vented;
          if (exhaust === 'undecided') draft.ventilation = null;
          else if (exhaust === 'none') draft.ventilation = { exhaust, reason: 'by its design' };
          else if (exhaust === 'ridge vent') draft.ventilation = { exhaust, floor, intake, others: false };
          else draft.ventilation = { exhaust, floor, intake, outlet: 0 };
        }}
      />
      {ventilation?.exhaust === 'none' && (
        <TextField
          label="Why it is not vented"
          value={ventilation.reason}
          set={(draft, reason) => void Object.assign(draft.ventilation!, { reason })}
        />
      )}
      {ventilation && ventilation.exhaust !== 'none' && <VentedFields ventilation={ventilation} />}
      {made && (
        <p className={css.comesTo}>
          Asked {units.netFree(made.needed)}, 1 part in {made.onePartIn}
          {made.balanced ? ', balanced' : ''}. In {units.netFree(made.intake)}, out {units.netFree(made.exhaust)}
          {made.slot > 0 ? ` over ${units.length(made.slot)} of slot` : ''}.
        </p>
      )}
    </Section>
  );
}

function VentedFields({ ventilation }: { ventilation: Exclude<Ventilation, { exhaust: 'none' }> }) {
  const fields = fieldsOf(ventilation, (draft) => draft.ventilation as typeof ventilation);
  return (
    <>
      {fields.area('floor', 'Floor of the vented attic', 'floor')}
      {fields.area('intake', 'Net free area at the eaves', 'opening', { hint: 'As the makers of the grilles state it' })}
      {ventilation.exhaust === 'as it is' && (
        <AreaField
          label="Net free area up the roof"
          size="opening"
          value={ventilation.outlet}
          set={(draft, outlet) => void Object.assign(draft.ventilation!, { outlet })}
        />
      )}
      {ventilation.exhaust === 'ridge vent' && (
        <SwitchField
          label="Other vents left open up the roof"
          value={ventilation.others}
          set={(draft, others) => void Object.assign(draft.ventilation!, { others })}
        />
      )}
    </>
  );
}

function SlopeSection() {
  const { job } = useEditing();
  const { measured: roof, part, recordIn } = useSlope();
  // what the other slopes make of its edges (hips, valleys, a ridge they share) is not asked
  const slope = fieldsOf<PlaneRecord>(roof, recordIn);
  const ends = roof.edges.filter(({ kind }) => kind === 'rake').map(({ from }) => from[0]);
  const shown = SHOWN[job.coverings.find(({ id }) => id === roof.covering)!.kind];
  return (
    <Section title="Slope">
      {slope.text('name', 'Name of the slope')}
      <PartMeasures part={part} />
      {ends.some((x) => x < 1) && slope.either('left', 'Left end', ENDS)}
      {ends.some((x) => x > roof.eaveLength - 1) && slope.either('right', 'Right end', ENDS)}
      {roof.edges.some(({ kind }) => kind === 'top') && (
        <EitherField
          label="Top"
          value={roof.top}
          options={{ ridge: 'ridge', continues: 'goes on', wall: 'wall' }}
          set={(draft, top) => {
            recordIn(draft).top = top;
            // the wall along a top goes when the top is no wall any more
            if (top !== 'wall')
              draft.features = draft.features.filter(({ kind, plane }) => kind !== 'headwall' || plane !== roof.id);
            else if (!draft.features.some(({ kind, plane }) => kind === 'headwall' && plane === roof.id))
              draft.features.push(newFeature('headwall', draft, roof));
          }}
        />
      )}
      {(job.parts.length > 1 || roof.exposure !== null) &&
        slope.length('exposure', `${shown.word} on this slope`, { rule: shown.rule, optional: 'The covering’s' })}
      <MeasuredButts />
      <LengthField
        label="Rafters apart"
        value={roof.rafters?.spacing ?? null}
        optional="Not measured"
        set={(draft, value) => {
          const record = recordIn(draft);
          record.rafters = value === null ? null : { spacing: value, first: record.rafters?.first ?? 0 };
        }}
      />
    </Section>
  );
}

/** Courses that lie elsewhere on the roof than planned: what lies above them is fitted from where they really are. */
function MeasuredButts() {
  const { change } = useEditing();
  const { plane, measured: roof, recordIn } = useSlope();
  const [error, setError] = useState<string>();
  const butts = roof.measuredButts ?? [];
  // where a course is planned to be: nothing changes until the tape says so
  const planned = (course: number) => ({ course, at: buttLine(plane.lines, course) });
  return (
    <div className={css.measuredButts} role="group" aria-label="Butts measured on the roof">
      {butts.map((butt, i) => {
        const fields = fieldsOf(butt, (draft) => recordIn(draft).measuredButts![i]!);
        return (
          <div key={i} className={css.measuredButt}>
            <CountField
              label="Butt of course"
              most={plane.lines.count}
              value={butt.course}
              set={(draft, course) => void Object.assign(recordIn(draft).measuredButts![i]!, planned(course))}
            />
            {fields.length('at', `Course ${butt.course} is really at`)}
            <ActionIcon
              variant="subtle"
              size={32}
              aria-label={`Remove the measured butt of course ${butt.course}`}
              onClick={() => void change('remove measured butt', (draft) => void recordIn(draft).measuredButts!.splice(i, 1))}
            >
              <IconTrash size={18} />
            </ActionIcon>
          </div>
        );
      })}
      <Button
        variant="default"
        size="xs"
        leftSection={<IconRuler2 size={16} />}
        onClick={() => {
          const above = Math.max(1, ...butts.map(({ course }) => course)) + 1;
          const butt = planned(Math.min(above, plane.lines.count));
          const [issue] = change('measured butt', (draft) => {
            const record = recordIn(draft);
            record.measuredButts = [...(record.measuredButts ?? []), butt];
          });
          setError(issue?.kept ? undefined : issue?.message);
        }}
      >
        A butt measured on the roof
      </Button>
      <FieldError>{error}</FieldError>
    </div>
  );
}

const ENDS = { rake: 'rake', continues: 'goes on, or a wall' } as const;

const WALL_COUNTERS = { ...COUNTERS, trays: 'Trays through the wall, one a step' } as const;
const FIELD_NAILS = { 'clear-of-wall': 'kept clear', 'in-headlap': 'in the headlap' } as const;

function WallSection({ wall, index }: { wall: Wall; index: number }) {
  const { change } = useEditing();
  const { plane, measured: roof, recordIn } = useSlope();
  const at = (draft: Job): Wall => recordIn(draft).walls[index]!;
  const fields = fieldsOf(wall, at);
  const isTile = plane.sides === 'covers' || wall.slant !== null;
  return (
    <Section
      title={`${wall.id} · ${wall.name}`}
      aside={
        <ActionIcon
          variant="subtle"
          size={32}
          aria-label={`Remove ${wall.name}`}
          onClick={() => void change(`remove ${wall.id}`, (draft) => void recordIn(draft).walls.splice(index, 1))}
        >
          <IconTrash size={18} />
        </ActionIcon>
      }
    >
      {fields.text('name', 'Name of the wall')}
      <EitherField
        label="It stands, seen facing the slope"
        value={wall.stands}
        options={{ left: 'on the left', right: 'on the right' }}
        set={(draft, stands) => {
          const target = at(draft);
          const end = roof.eaveLength;
          // turning a wall round at the slope's end takes it to the other end
          if (target.stands !== stands && (target.x === 0 || target.x === end)) target.x = stands === 'left' ? 0 : end;
          target.stands = stands;
        }}
      />
      {fields.length('x', wall.slant ? 'Face at the eave, from the left end' : 'Face from the slope’s left end')}
      {isTile && <SlantFields wall={wall} at={at} />}
      {plane.sides === 'covers' &&
        wall.slant === null &&
        wall.from === 0 &&
        fields.either('besideTiles', 'Beside it', {
          'cover flashing': 'metal over the tiles',
          'pan flashing': 'a pan under them',
        })}
      {fields.length('from', 'Starts up the slope at', { hint: '0 at the eave' })}
      {fields.length('to', 'Ends up the slope at', { optional: 'The top of the slope' })}
      {wall.from === 0 ? (
        <>
          {fields.onOff('runsPastEave', 'Runs on past the eave')}
          {fields.either('foot', 'Foot', { 'kick-out': 'kick-out', corner: 'corner' }, { rule: 'kickOut.required' })}
        </>
      ) : (
        fields.length('apronLeg', 'Apron’s roof leg at the foot')
      )}
      {fields.choice('cladding', 'Cladding', CLADDINGS, {
        rule: wall.cladding === 'masonry' ? 'counterflashing.cover' : 'cladding.clearance',
      })}
      {wall.cladding === 'masonry' && (
        <>
          {fields.choice('counter', 'Counterflashing', WALL_COUNTERS, { rule: 'counterflashing.cover' })}
          {(wall.counter === 'stepped' || wall.counter === 'trays') &&
            fields.length('jointSpacing', 'Joint to joint of the masonry')}
          {wall.counter === 'trays' && (
            <CavityWallFields id={wall.id} value={wall.cavityWall} at={(draft) => at(draft).cavityWall} />
          )}
        </>
      )}
      {fields.length('height', 'Wall height rain can strike')}
      {plane.sides === 'steps' && <StepFields wall={wall} at={at} />}
    </Section>
  );
}

const DRAINS = {
  'moulded channel': 'Moulded channel under the cut tiles',
  'lead channel': 'Channel of folded lead',
  'cover alone': 'Cover flashing alone',
} as const;
const RAFTERS = {
  'set back': 'stands back from the wall',
  'at the wall': 'against it, got at from inside',
  'no access': 'against it, not to be got at',
} as const;

/** A wall at an angle: where it is at the top, and what drains the tiles that are cut along it. */
function SlantFields({ wall, at }: { wall: Wall; at: (draft: Job) => Wall }) {
  const { slant } = wall;
  return (
    <>
      <EitherField
        label="To the line of the tiles it stands"
        value={slant ? 'slanted' : 'square'}
        options={{ square: 'square', slanted: 'at an angle' }}
        set={(draft, to) => {
          const target = at(draft);
          target.slant = to === 'square' ? null : { topX: target.x, ...USUAL_SLANT };
        }}
      />
      {slant && <SlantedFields slant={slant} at={(draft) => at(draft).slant!} />}
    </>
  );
}

function SlantedFields({ slant, at }: { slant: NonNullable<Wall['slant']>; at: (draft: Job) => NonNullable<Wall['slant']> }) {
  const fields = fieldsOf(slant, at);
  return (
    <>
      {fields.length('topX', 'Face at the top, from the left end')}
      {fields.choice('drain', 'Cut tiles drain into', DRAINS, { rule: 'channel.lap' })}
      {slant.drain !== 'cover alone' && (
        <>
          {fields.choice('rafter', 'Last rafter', RAFTERS)}
          {fields.length('channelFrom', 'Channel ends up the slope at', { hint: '0: on into the gutter' })}
          {fields.onOff('mortar', 'Cut tiles bedded in mortar')}
        </>
      )}
    </>
  );
}

/** How the step flashings of a wall are chosen and nailed; on slates and tiles it has none. */
function StepFields({ wall, at }: { wall: Wall; at: (draft: Job) => Wall }) {
  const { library } = useEditing();
  const { plane } = useSlope();
  const fields = fieldsOf(wall, at);
  return (
    <>
      {fields.either('nailSide', 'Steps nailed to', { deck: 'deck', wall: 'wall' }, { rule: 'stepFlashing.nailSide' })}
      {fields.either('fieldNails', 'Field nails at the wall', FIELD_NAILS, { rule: 'sidewall.nailSchool' })}
      <ChoiceField
        label="Step flashing"
        rule="stepFlashing.headlap"
        value={wall.stepFlashing ?? ''}
        options={[
          { value: '', label: `By the rules: ${plane.walls.find(({ id }) => id === wall.id)?.step?.name ?? 'none fits'}` },
          ...named(itemsOf(library.catalog, 'stepFlashing')),
        ]}
        set={(draft, id) => void (at(draft).stepFlashing = id === '' ? null : id)}
      />
      <WallFlow id={wall.id} />
    </>
  );
}

/** What one long piece would gather, against what each step hands back. */
function WallFlow({ id }: { id: string }) {
  const { units } = useEditing();
  const { plane } = useSlope();
  const [all, setAll] = useState(false);
  const flow = plane.walls.find((wall) => wall.id === id)?.flow ?? [];
  const foot = flow[0];
  if (!foot) return null;
  return (
    <div className={css.wallFlow}>
      <p>
        One long piece would carry <b className="fig">{units.flow(foot.collected)}</b> at the foot. Each step hands back at most{' '}
        <b className="fig">{units.flow(Math.max(...flow.map(({ perStep }) => perStep)))}</b>.
      </p>
      <button type="button" className="link" aria-expanded={all} onClick={() => setAll(!all)}>
        {all ? 'Hide the courses' : 'Water course by course'}
      </button>
      {all && (
        <Table>
          <HeadRow titles={['Course', 'Gathered']} />
          <Table.Tbody>
            {flow.toReversed().map(({ course, collected }) => (
              <Table.Tr key={course}>
                <Table.Td>{course}</Table.Td>
                <Table.Td className="fig">{units.flow(collected)}</Table.Td>
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      )}
    </div>
  );
}

function AddWall() {
  const { change, job } = useEditing();
  const { measured: roof, recordIn } = useSlope();
  const none = roof.walls.length === 0 && job.features.length === 0 && job.parts.length === 1;
  const [error, setError] = useState<string>();
  return (
    <div className={none ? `${css.addWall} ${css.first}` : css.addWall}>
      {none && <p>Next: the wall this slope meets. It brings the step flashings.</p>}
      <Button
        variant={none ? 'filled' : 'default'}
        size="sm"
        leftSection={<IconPlus size={16} />}
        onClick={() => {
          const [issue] = change('add wall', (draft) => {
            const wall = newWall(roof);
            const used = draft.parts.flatMap(({ planes }) => planes.flatMap(({ walls }) => walls.map(({ id }) => id)));
            for (let i = 1; used.includes(wall.id); i++) wall.id = `SW${i}`;
            recordIn(draft).walls.push(wall);
          });
          setError(issue?.kept ? undefined : issue?.message);
        }}
      >
        Add a wall
      </Button>
      <FieldError>{error}</FieldError>
    </div>
  );
}

/** Which packs speak in this job; makers' instructions come with their products. */
function PackSection() {
  const { job, library, change } = useEditing();
  const packs = library.packs.filter(({ source }) => source !== 'maker');
  const versions = (id: string): number => packs.filter((pack) => pack.id === id).length;
  return (
    <Section title="Who speaks">
      <ul className={css.packs}>
        {packs.map((pack) => {
          const used = job.packs.some(({ id, version }) => id === pack.id && version === pack.version);
          return (
            <li key={`${pack.id}@${pack.version}`}>
              <Checkbox
                label={`${pack.name}, ${pack.edition}${versions(pack.id) > 1 ? `, version ${pack.version}` : ''}`}
                checked={used}
                onChange={() =>
                  void change(`pack ${pack.id}`, (draft) => {
                    const others = draft.packs.filter(({ id, version }) => id !== pack.id || version !== pack.version);
                    draft.packs = used ? others : [...others, { id: pack.id, version: pack.version }];
                  })
                }
              />
              {pack.notice && <p className="quiet small">{pack.notice}</p>}
            </li>
          );
        })}
      </ul>
      <p className="quiet small">Makers speak through their products.</p>
    </Section>
  );
}
