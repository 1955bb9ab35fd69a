import { useId } from 'react';
import css from './Choice.module.css';
import { type Options, listed } from './options.ts';

/** A few ways side by side, of which one is taken. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: Options<T>;
  onChange: (value: T) => void;
}) {
  const name = useId();
  return (
    <div className={css.choice} role="radiogroup" aria-label={label}>
      {listed(options).map((one) => (
        <label key={one.value}>
          <input type="radio" name={name} checked={one.value === value} onChange={() => onChange(one.value)} />
          {one.label}
        </label>
      ))}
    </div>
  );
}
