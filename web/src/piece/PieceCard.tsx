import { ActionIcon, Table } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { type Piece, ROLES, isSidePiece, isWithin, outlineArea, wallFacets, wallToSlope } from '#core';
import { type Planned, type SlopeShown, type Units, useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { AskWho, valueInUse } from '../rules/WhoSays.tsx';
import { FlatPatternDrawing } from './FlatPatternDrawing.tsx';
import css from './PieceCard.module.css';

/** Everything about the chosen piece: what it is, its flat pattern, its fasteners, what it lies on, and its rules. */
export function PieceCard() {
  const { library, units } = useEditing();
  const { plan } = usePlanned();
  const { plane, roof, lineOf, lines } = useSlope();
  const { chosen, choose, marker, setMarker } = useView();
  if (!chosen) return null;
  const product = library.catalog.items.find(({ id }) => id === chosen.product);
  const line = lineOf.get(chosen.mark);
  const requirements = chosen.keys.flatMap((key) => plane.requirements.find((requirement) => requirement.key === key) ?? []);
  return (
    <section className={css.pieceCard} aria-label={`Piece ${chosen.mark}`}>
      <header>
        <h2>
          <span className="fig">{chosen.mark}</span> {ROLES[chosen.role].name}
        </h2>
        <p className="quiet">{product ? `${product.name}, ${product.maker}` : 'not ours to order'}</p>
        {line !== undefined && (
          <button type="button" className="link" onClick={() => setMarker(line)}>
            line {lines[line - 1]?.whole} of the run sheet{line > marker ? ', not laid yet' : ''}
          </button>
        )}
        <ActionIcon
          variant="subtle"
          size={36}
          aria-label="Close the piece"
          onClick={() => choose(undefined)}
          className={css.close}
        >
          <IconX size={18} />
        </ActionIcon>
      </header>
      <div className={css.pieceBody}>
        {chosen.flat && <FlatPatternDrawing flat={chosen.flat} />}
        <dl className={css.pieceFacts}>
          {facts({ plan, plane, units, roof }, chosen).map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd className="fig">{value}</dd>
            </div>
          ))}
        </dl>
        {requirements.length > 0 && (
          <Table className={css.pieceRules}>
            <Table.Caption>Rules</Table.Caption>
            <Table.Tbody>
              {requirements.map((requirement) => (
                <Table.Tr key={requirement.key} className={requirement.status}>
                  <Table.Th scope="row">{requirement.meaning}</Table.Th>
                  <Table.Td className="fig">{valueInUse(requirement, units)}</Table.Td>
                  <Table.Td>
                    <AskWho rule={requirement.key} about={requirement.meaning} />
                  </Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
        )}
        <Stack piece={chosen} />
      </div>
    </section>
  );
}

type Told = Pick<Planned, 'plan'> & Pick<SlopeShown, 'plane' | 'roof'> & { units: Units };

function facts({ plan, plane, units, roof: slope }: Told, piece: Piece): [string, string][] {
  const rows: [string, string][] = [];
  const walls = wallFacets(plan);
  const onRoof = piece.covers.filter(({ facet }) => !walls.has(facet));
  const roof = onRoof[0];
  if (roof) {
    const ys = onRoof.flatMap(({ outline }) => outline.map(([, y]) => y));
    const xs = roof.outline.map(([x]) => x);
    rows.push(['Lower edge, up the slope', units.length(Math.min(...ys))], ['Upper edge', units.length(Math.max(...ys))]);
    if (piece.role !== 'course') rows.push(['Across, on the roof', units.cut(Math.max(...xs) - Math.min(...xs))]);
  }
  const wall = piece.covers.find(({ facet }) => walls.has(facet));
  if (wall) {
    const up = wall.outline.map((point) => wallToSlope(point, slope.pitch).u);
    rows.push([
      Math.min(...up) > 1 ? 'On the wall, from and to' : 'Up the wall, square to the slope',
      Math.min(...up) > 1 ? `${units.cut(Math.min(...up))} to ${units.cut(Math.max(...up))}` : units.cut(Math.max(...up)),
    ]);
  }
  if (piece.cutLength !== undefined) rows.push(['Cut length', units.cut(piece.cutLength)]);
  if (piece.sheetWidth !== undefined) rows.push(['Cut width', units.cut(piece.sheetWidth)]);
  if (isSidePiece(piece.role)) {
    const next = plan.pieces.find(
      ({ role, detail, course }) => role === piece.role && detail === piece.detail && course === piece.course! + 1,
    );
    const top = Math.max(...piece.covers[0]!.outline.map(([, y]) => y));
    if (next)
      rows.push(['Headlap under the next piece', units.cut(top - Math.min(...next.covers[0]!.outline.map(([, y]) => y)))]);
  }
  if (piece.units)
    rows.push([
      'Whole, and cut to',
      `${piece.units.whole}${piece.units.parts.length > 0 ? `, ${piece.units.parts.map(units.cut).join(', ')}` : ''}`,
    ]);
  if (piece.role === 'underlayment' || piece.role === 'iceBarrier')
    rows.push(['Area', units.area(piece.covers.reduce((sum, { outline }) => sum + outlineArea(outline), 0))]);
  const nails = plan.fasteners.filter((fastener) => fastener.piece === piece.mark);
  if (nails.length > 0 && nails.length <= 4) {
    for (const { facet, at } of nails) {
      const onWall = walls.has(facet) && wallToSlope(at, slope.pitch);
      const wallX = slope.walls.find(({ id }) => id === piece.detail)?.x ?? 0;
      rows.push([
        'Nail',
        onWall
          ? `${units.length(onWall.s)} up the slope, ${units.cut(onWall.u)} up the wall`
          : `${units.length(at[1])} up the slope, ${units.cut(Math.abs(at[0] - wallX))} from the wall`,
      ]);
    }
  } else if (nails.length > 4) rows.push(['Nails', String(nails.length)]);
  if (piece.course !== undefined && piece.course > 0 && piece.role === 'course')
    rows.push(['Exposure', units.cut(plane.lines.gauge)]);
  return rows;
}

/** What lies at the piece's middle, top first; what is not laid yet at the marker is pale. */
function Stack({ piece }: { piece: Piece }) {
  const { plan } = usePlanned();
  const { lineOf } = useSlope();
  const { marker, choose } = useView();
  const { facet, outline } = piece.covers[0]!;
  const x = outline.reduce((sum, [px]) => sum + px, 0) / outline.length;
  const y = outline.reduce((sum, [, py]) => sum + py, 0) / outline.length;
  const here = plan.pieces
    .filter(({ covers }) => covers.some((cover) => cover.facet === facet && isWithin(cover.outline, [x, y])))
    .toReversed();
  return (
    <div className={css.stack}>
      <h3>Stack at its middle</h3>
      <ol>
        {here.map((other) => (
          <li
            key={other.mark}
            className={`${(lineOf.get(other.mark) ?? 0) > marker ? css.pale : ''} ${other.mark === piece.mark ? 'on' : ''}`}
          >
            <button type="button" className={`mark ${other.role}`} onClick={() => choose(other.mark)}>
              {other.mark}
            </button>{' '}
            {ROLES[other.role].name}
          </li>
        ))}
        <li>deck</li>
      </ol>
    </div>
  );
}
