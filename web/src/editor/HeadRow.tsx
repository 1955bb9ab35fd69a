import { Table } from '@mantine/core';

/** The head of a table: a title a column. */
export const HeadRow = ({ titles }: { titles: readonly string[] }) => (
  <Table.Thead>
    <Table.Tr>
      {titles.map((title) => (
        <Table.Th key={title}>{title}</Table.Th>
      ))}
    </Table.Tr>
  </Table.Thead>
);
