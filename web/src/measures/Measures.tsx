import { ActionIcon, Button } from '@mantine/core';
import { IconPlus, IconTrash } from '@tabler/icons-react';
import { type Item, type ItemKind, type Job, METALS, type Wall, itemsOf, newFeature, newWall } from '@ruvet/core';
import { useState } from 'react';
import { useWorkbench } from '../editor/context.ts';
import { CavityWallFields, COUNTER_OPTIONS, Features } from './Features.tsx';
import { CLADDING_OPTIONS, PartMeasures } from './PartMeasures.tsx';
import { ChoiceField, EitherField, LengthField, PercentField, Section, SwitchField, TextField } from './fields.tsx';

const named = (items: readonly Item[]) => items.map(({ id, name, maker }) => ({ value: id, label: `${name}, ${maker}` }));

/** What the tape brought back: the slope, its covering, what goes under it, and the walls it meets. */
export function Measures() {
  const { job, library } = useWorkbench();
  const { measured: roof } = useWorkbench();
  const options = (kind: ItemKind) => named(itemsOf(library.catalog, kind));
  return (
    <form className="measures" aria-label="Measures" onSubmit={(event) => event.preventDefault()}>
      <SlopeSection />
      {roof.walls.map((wall, i) => (
        <WallSection key={wall.id} wall={wall} index={i} />
      ))}
      <AddWall />
      <Features />
      <Section title="Covering">
        <ChoiceField
          label="Shingle"
          value={job.covering.shingle}
          options={options('shingle')}
          set={(draft, id) => void (draft.covering.shingle = id)}
        />
        <LengthField
          label="Exposure"
          rule="covering.exposure"
          value={job.covering.exposure}
          optional="The greatest allowed"
          set={(draft, value) => void (draft.covering.exposure = value)}
        />
        <LengthField
          label="First butt past the deck edge"
          rule="covering.firstButt"
          value={job.covering.firstButt}
          set={(draft, value) => void (draft.covering.firstButt = value!)}
        />
        <ChoiceField
          label="Starter"
          value={job.covering.starter}
          options={options('starter')}
          set={(draft, id) => void (draft.covering.starter = id)}
        />
        <ChoiceField
          label="Ridge cap"
          value={job.covering.ridgeCap}
          options={options('ridgeCap')}
          set={(draft, id) => void (draft.covering.ridgeCap = id)}
        />
        <ChoiceField
          label="Flashing metal"
          rule="flashing.thickness"
          value={job.metal}
          options={METALS.map((metal) => ({ value: metal, label: metal }))}
          set={(draft, metal) => void (draft.metal = metal)}
        />
      </Section>
      <UnderlayerSection />
      <Section title="Site">
        <SwitchField
          label="Ice dams on record"
          rule="iceBarrier.required"
          value={job.site.iceDams}
          set={(draft, on) => void (draft.site.iceDams = on)}
        />
        <LengthField
          label="Rain in an hour"
          value={job.site.rainPerHour}
          hint="Local 5-minute figure"
          set={(draft, value) => void (draft.site.rainPerHour = value!)}
        />
        <PercentField
          label="Rain driven on to walls"
          value={job.site.drivenRainShare}
          set={(draft, share) => void (draft.site.drivenRainShare = share)}
        />
        <LengthField
          label="Deck sheathing"
          value={job.deckThickness}
          set={(draft, value) => void (draft.deckThickness = value!)}
        />
      </Section>
      <PackSection />
    </form>
  );
}

function SlopeSection() {
  const { measured: roof, part, recordIn, job } = useWorkbench();
  // what the other slopes make of its edges (hips, valleys, a ridge they share) is not asked
  const ends = roof.edges.filter(({ kind }) => kind === 'rake').map(({ from }) => from[0]);
  return (
    <Section title="Slope">
      <TextField label="Name of the slope" value={roof.name} set={(draft, name) => void (recordIn(draft).name = name)} />
      <PartMeasures part={part} />
      {ends.some((x) => x < 1) && (
        <EitherField
          label="Left end"
          value={roof.left}
          options={END_OPTIONS}
          set={(draft, end) => void (recordIn(draft).left = end)}
        />
      )}
      {ends.some((x) => x > roof.eaveLength - 1) && (
        <EitherField
          label="Right end"
          value={roof.right}
          options={END_OPTIONS}
          set={(draft, end) => void (recordIn(draft).right = end)}
        />
      )}
      {roof.edges.some(({ kind }) => kind === 'top') && (
        <EitherField
          label="Top"
          value={roof.top}
          options={[
            { value: 'ridge', label: 'ridge' },
            { value: 'continues', label: 'goes on' },
            { value: 'wall', label: 'wall' },
          ]}
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
      {(job.parts.length > 1 || roof.exposure !== null) && (
        <LengthField
          label="Exposure on this slope"
          rule="covering.exposure"
          value={roof.exposure}
          optional="The covering’s"
          set={(draft, value) => void (recordIn(draft).exposure = value)}
        />
      )}
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

const END_OPTIONS = [
  { value: 'rake', label: 'rake' },
  { value: 'continues', label: 'goes on, or a wall' },
] as const;

function WallSection({ wall, index }: { wall: Wall; index: number }) {
  const { editor, plane, measured: roof, library, recordIn } = useWorkbench();
  const at = (draft: Job): Wall => recordIn(draft).walls[index]!;
  return (
    <Section
      title={`${wall.id} · ${wall.name}`}
      aside={
        <ActionIcon
          variant="subtle"
          size={32}
          aria-label={`Remove ${wall.name}`}
          onClick={() => void editor.change(`remove ${wall.id}`, (draft) => void recordIn(draft).walls.splice(index, 1))}
        >
          <IconTrash size={18} />
        </ActionIcon>
      }
    >
      <TextField label="Name of the wall" value={wall.name} set={(draft, name) => void (at(draft).name = name)} />
      <EitherField
        label="It stands, seen facing the slope"
        value={wall.stands}
        options={[
          { value: 'left', label: 'on the left' },
          { value: 'right', label: 'on the right' },
        ]}
        set={(draft, stands) => {
          const target = at(draft);
          const end = roof.eaveLength;
          // turning a wall round at the slope's end takes it to the other end
          if (target.stands !== stands && (target.x === 0 || target.x === end)) target.x = stands === 'left' ? 0 : end;
          target.stands = stands;
        }}
      />
      <LengthField label="Face from the slope’s left end" value={wall.x} set={(draft, value) => void (at(draft).x = value!)} />
      <LengthField
        label="Starts up the slope at"
        value={wall.from}
        hint="0 at the eave"
        set={(draft, value) => {
          at(draft).from = value!;
          if (value! > 0) at(draft).foot = 'corner';
        }}
      />
      <LengthField
        label="Ends up the slope at"
        value={wall.to}
        optional="The top of the slope"
        set={(draft, value) => void (at(draft).to = value)}
      />
      {wall.from === 0 ? (
        <>
          <SwitchField
            label="Runs on past the eave"
            value={wall.runsPastEave}
            set={(draft, on) => void (at(draft).runsPastEave = on)}
          />
          <EitherField
            label="Foot"
            rule="kickOut.required"
            value={wall.foot}
            options={[
              { value: 'kick-out', label: 'kick-out' },
              { value: 'corner', label: 'corner' },
            ]}
            set={(draft, foot) => void (at(draft).foot = foot)}
          />
        </>
      ) : (
        <LengthField
          label="Apron’s roof leg at the foot"
          value={wall.apronLeg}
          set={(draft, value) => void (at(draft).apronLeg = value!)}
        />
      )}
      <ChoiceField
        label="Cladding"
        rule={wall.cladding === 'masonry' ? 'counterflashing.cover' : 'cladding.clearance'}
        value={wall.cladding}
        options={CLADDING_OPTIONS}
        set={(draft, cladding) => void (at(draft).cladding = cladding)}
      />
      {wall.cladding === 'masonry' && (
        <>
          <ChoiceField
            label="Counterflashing"
            rule="counterflashing.cover"
            value={wall.counter}
            options={[...COUNTER_OPTIONS, { value: 'trays', label: 'Trays through the wall, one a step' }]}
            set={(draft, counter) => void (at(draft).counter = counter)}
          />
          {(wall.counter === 'stepped' || wall.counter === 'trays') && (
            <LengthField
              label="Joint to joint of the masonry"
              value={wall.jointSpacing}
              set={(draft, value) => void (at(draft).jointSpacing = value!)}
            />
          )}
          {wall.counter === 'trays' && (
            <CavityWallFields id={wall.id} value={wall.cavityWall} at={(draft) => at(draft).cavityWall} />
          )}
        </>
      )}
      <LengthField
        label="Wall height rain can strike"
        value={wall.height}
        set={(draft, value) => void (at(draft).height = value!)}
      />
      <EitherField
        label="Steps nailed to"
        rule="stepFlashing.nailSide"
        value={wall.nailSide}
        options={[
          { value: 'deck', label: 'deck' },
          { value: 'wall', label: 'wall' },
        ]}
        set={(draft, side) => void (at(draft).nailSide = side)}
      />
      <EitherField
        label="Field nails at the wall"
        rule="sidewall.nailSchool"
        value={wall.fieldNails}
        options={[
          { value: 'clear-of-wall', label: 'kept clear' },
          { value: 'in-headlap', label: 'in the headlap' },
        ]}
        set={(draft, school) => void (at(draft).fieldNails = school)}
      />
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
    </Section>
  );
}

/** What one long piece would gather, against what each step hands back. */
function WallFlow({ id }: { id: string }) {
  const { plane, units } = useWorkbench();
  const [all, setAll] = useState(false);
  const flow = plane.walls.find((wall) => wall.id === id)?.flow ?? [];
  const foot = flow[0];
  if (!foot) return null;
  return (
    <div className="wall-flow">
      <p>
        One long piece would carry <b className="fig">{units.flow(foot.collected)}</b> at the foot. Each step hands back at most{' '}
        <b className="fig">{units.flow(Math.max(...flow.map(({ perStep }) => perStep)))}</b>.
      </p>
      <button type="button" className="link" aria-expanded={all} onClick={() => setAll(!all)}>
        {all ? 'Hide the courses' : 'Water course by course'}
      </button>
      {all && (
        <table>
          <thead>
            <tr>
              <th>Course</th>
              <th>Gathered</th>
            </tr>
          </thead>
          <tbody>
            {flow.toReversed().map(({ course, collected }) => (
              <tr key={course}>
                <td>{course}</td>
                <td className="fig">{units.flow(collected)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

function AddWall() {
  const { editor, measured: roof, job, recordIn } = useWorkbench();
  const none = roof.walls.length === 0 && job.features.length === 0 && job.parts.length === 1;
  const [error, setError] = useState<string>();
  return (
    <div className={none ? 'add-wall first' : 'add-wall'}>
      {none && <p>Next: the wall this slope meets. It brings the step flashings.</p>}
      <Button
        variant={none ? 'filled' : 'default'}
        size="sm"
        leftSection={<IconPlus size={16} />}
        onClick={() => {
          const [issue] = editor.change('add wall', (draft) => {
            const wall = newWall(roof);
            const used = draft.parts.flatMap(({ planes }) => planes.flatMap(({ walls }) => walls.map(({ id }) => id)));
            for (let i = 1; used.includes(wall.id); i++) wall.id = `SW${i}`;
            recordIn(draft).walls.push(wall);
          });
          setError(issue?.message);
        }}
      >
        Add a wall
      </Button>
      {error && (
        <p className="field-error" role="alert">
          {error}
        </p>
      )}
    </div>
  );
}

function UnderlayerSection() {
  const { job, library, plane, units } = useWorkbench();
  const options = (kind: ItemKind) => named(itemsOf(library.catalog, kind));
  const { barrier } = plane;
  return (
    <Section title="Underlayers">
      <ChoiceField
        label="Ice barrier"
        value={job.underlayers.iceBarrier}
        options={options('iceBarrier')}
        set={(draft, id) => void (draft.underlayers.iceBarrier = id)}
      />
      {barrier && (
        <p className="worked" aria-label="Ice barrier worked out">
          {units.cut(barrier.level)} level is <b className="fig">{units.cut(barrier.needed)}</b>
          {units.system === 'imperial' && <span className="fig"> ({(barrier.needed / 25.4).toFixed(1)}")</span>} along the slope:{' '}
          <b>{barrier.rows.length} rows</b>, covering {units.cut(barrier.covered)}. Laid off along the slope,{' '}
          {units.cut(barrier.level)} would end {units.cut(barrier.needed - barrier.level)} short.
        </p>
      )}
      <LengthField
        label="Inside the wall line, level"
        rule="iceBarrier.insideWall"
        value={job.underlayers.insideWall}
        optional="The least that governs"
        set={(draft, value) => void (draft.underlayers.insideWall = value)}
      />
      <EitherField
        label="At the eave"
        rule="eave.order"
        value={job.underlayers.eaveOrder}
        options={[
          { value: 'metal-first', label: 'metal first' },
          { value: 'barrier-first', label: 'barrier first' },
        ]}
        set={(draft, order) => void (draft.underlayers.eaveOrder = order)}
      />
      <SwitchField
        label="Gutter hangs at this eave"
        value={job.underlayers.gutter}
        set={(draft, on) => void (draft.underlayers.gutter = on)}
      />
      <LengthField
        label="Longest strip you handle"
        value={job.underlayers.longestStrip}
        optional="The whole roll"
        set={(draft, value) => void (draft.underlayers.longestStrip = value)}
      />
      <ChoiceField
        label="Underlayment"
        rule="underlayment.layers"
        value={job.underlayers.underlayment}
        options={options('underlayment')}
        set={(draft, id) => void (draft.underlayers.underlayment = id)}
      />
    </Section>
  );
}

/** Which packs speak in this job; makers' instructions come with their products. */
function PackSection() {
  const { job, library, editor } = useWorkbench();
  const packs = library.packs.filter(({ source }) => source !== 'maker');
  return (
    <Section title="Who speaks">
      <ul className="packs">
        {packs.map((pack) => {
          const used = job.packs.some(({ id, version }) => id === pack.id && version === pack.version);
          return (
            <li key={`${pack.id}@${pack.version}`}>
              <label>
                <input
                  type="checkbox"
                  checked={used}
                  onChange={() =>
                    void editor.change(`pack ${pack.id}`, (draft) => {
                      const others = draft.packs.filter(({ id, version }) => id !== pack.id || version !== pack.version);
                      draft.packs = used ? others : [...others, { id: pack.id, version: pack.version }];
                    })
                  }
                />
                {pack.name}, {pack.edition}
              </label>
              {pack.notice && <p className="quiet small">{pack.notice}</p>}
            </li>
          );
        })}
      </ul>
      <p className="quiet small">Makers speak through their products.</p>
    </Section>
  );
}
