import type { Curve } from '#core';
import { CartesianGrid, Legend, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { useEditing } from '../editor/context.ts';
import css from './CurveChart.module.css';

/** Lines over a length, in the reader's units. */
export function CurveChart({ curve }: { curve: Curve }) {
  const { units } = useEditing();
  const imperial = units.system === 'imperial';
  const rows = curve.lines[0]!.points.map(([along], i) => ({
    along: imperial ? along / 304.8 : along / 1000,
    ...Object.fromEntries(curve.lines.map((line) => [line.name, imperial ? line.points[i]![1] / 25.4 : line.points[i]![1]])),
  }));
  return (
    <figure className={css.curve}>
      <figcaption>
        {curve.title}, {imperial ? 'inches' : 'mm'}; {curve.along}, {imperial ? 'feet' : 'm'}
      </figcaption>
      <ResponsiveContainer width="100%" height={220}>
        <LineChart data={rows} margin={{ top: 8, right: 16, bottom: 4, left: 0 }}>
          <CartesianGrid stroke="#d9d3c4" />
          <XAxis
            dataKey="along"
            type="number"
            tickCount={10}
            domain={[0, 'dataMax']}
            tickFormatter={(value: number) => value.toFixed(rows.at(-1)!.along < 12 ? 1 : 0)}
          />
          <YAxis width={44} />
          <Tooltip
            formatter={(value) => Number(value).toFixed(imperial ? 2 : 0)}
            labelFormatter={(value) => `${Number(value).toFixed(1)} ${imperial ? 'ft' : 'm'}`}
          />
          <Legend />
          {curve.lines.map((line, i) => (
            <Line
              key={line.name}
              dataKey={line.name}
              stroke={i === 0 ? '#2f5f8f' : '#a5562a'}
              strokeWidth={2}
              strokeDasharray={i === 0 ? undefined : '6 4'}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}
