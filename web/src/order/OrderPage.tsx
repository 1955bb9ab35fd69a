import { Button, Table } from '@mantine/core';
import { IconDownload, IconPrinter } from '@tabler/icons-react';
import { type OrderLine, type Piece, ROLES, besideWords, buyWords, leftOver, neededWords, orderCsv, runSheetCsv } from '#core';
import { download, fileName } from '../api.ts';
import { useEditing, usePlanned } from '../editor/context.ts';
import { HeadRow } from '../editor/HeadRow.tsx';
import { fieldsOf } from '../measures/fields.tsx';
import css from './OrderPage.module.css';

/** What to buy, by package, and the pieces it becomes. */
export function OrderPage() {
  const { job, units } = useEditing();
  const { plan } = usePlanned();
  const name = fileName(job.name);
  const save = (what: string, text: string): void => download(`${name}-${what}.csv`, `\uFEFF${text}`, 'text/csv;charset=utf-8');
  return (
    <main className={css.order}>
      <div className={css.orderHead}>
        <h2>Order list</h2>
        <div className={css.orderActions}>
          <Button
            size="sm"
            variant="default"
            leftSection={<IconDownload size={16} />}
            onClick={() => save('order', orderCsv(plan, units.system))}
          >
            Order list, CSV
          </Button>
          <Button
            size="sm"
            variant="default"
            leftSection={<IconDownload size={16} />}
            onClick={() => save('run-sheet', runSheetCsv(plan, units.system))}
          >
            Run sheet, CSV
          </Button>
          <Button size="sm" variant="default" leftSection={<IconPrinter size={16} />} onClick={() => print()}>
            Print
          </Button>
        </div>
      </div>
      <div className={css.tableFrame}>
        <Table className={css.orderTable}>
          <HeadRow titles={['Buy', 'Product', 'Needed', 'For', 'Left over']} />
          <Table.Tbody>
            {plan.order.map((line) => (
              <Row key={line.product} line={line} />
            ))}
          </Table.Tbody>
        </Table>
      </div>
      <Spares />
      <h2>Pieces</h2>
      <div className={css.tableFrame}>
        <Table className={css.orderTable}>
          <HeadRow titles={['Marks', 'Piece', 'Count', 'Cut to']} />
          <Table.Tbody>
            {piecesByKind(plan.pieces).map(({ first, last, count, piece, cuts }) => (
              <Table.Tr key={`${piece.detail} ${piece.role} ${first}`}>
                <Table.Td className="fig">{count > 1 ? `${first} … ${last}` : first}</Table.Td>
                <Table.Td>{ROLES[piece.role].name}</Table.Td>
                <Table.Td className="fig">{count}</Table.Td>
                <Table.Td className="fig">{cuts.map(units.cut).join(', ')}</Table.Td>
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      </div>
      <p className="quiet small">Counted from the plan, piece by piece. What is bought beside that stands with its reason.</p>
    </main>
  );
}

/** What the house buys beside what is needed. */
function Spares() {
  const { job } = useEditing();
  const fields = fieldsOf(job.spare, (draft) => draft.spare);
  return (
    <div className={css.spares} role="group" aria-label="Bought beside what is needed">
      {fields.percent('covering', 'Covering, for breakage')}
      {fields.percent('fasteners', 'Fasteners dropped and bent')}
    </div>
  );
}

function Row({ line }: { line: OrderLine }) {
  const { units } = useEditing();
  const beside = besideWords(line, units.system);
  const more = line.bound !== undefined && line.bound < line.needed;
  return (
    <tr>
      <td className={`fig ${css.buy}`}>{buyWords(line)}</td>
      <td>
        {line.name}
        <span className={`quiet small ${css.maker}`}>{line.maker}</span>
      </td>
      <td className="fig">
        {neededWords(line)}
        {beside !== '' && <span className={`quiet small ${css.maker}`}>{beside}</span>}
        {more && <span className={`quiet small ${css.maker}`}>at least {line.bound} by any cutting</span>}
      </td>
      <td>{line.uses.map(({ detail }) => detail).join(', ')}</td>
      <td className="fig">{leftOver(line, units.system)}</td>
    </tr>
  );
}

type PieceGroup = { piece: Piece; first: string; last: string; count: number; cuts: number[] };

/** Pieces of one detail and role together, with the different lengths they are cut to. */
function piecesByKind(pieces: readonly Piece[]): PieceGroup[] {
  const groups = new Map<string, PieceGroup>();
  for (const piece of pieces) {
    const key = `${piece.detail} ${piece.role}`;
    const group = groups.get(key) ?? { piece, first: piece.mark, last: piece.mark, count: 0, cuts: [] };
    group.last = piece.mark;
    group.count++;
    const cut = piece.cutLength;
    if (cut !== undefined && !group.cuts.some((other) => Math.abs(other - cut) < 0.5)) group.cuts.push(cut);
    groups.set(key, group);
  }
  return [...groups.values()];
}
