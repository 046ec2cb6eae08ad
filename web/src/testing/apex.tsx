import type { Props } from 'react-apexcharts';

/** Stands where a browser draws a chart: the names of its series, with how many points each has. */
export default function Chart({ series = [] }: Props) {
  return (
    <ul>
      {(series as { name?: string; data: readonly unknown[] }[]).map(({ name, data }, k) => (
        <li key={k}>{`${name ?? ''}: ${data.length}`}</li>
      ))}
    </ul>
  );
}
