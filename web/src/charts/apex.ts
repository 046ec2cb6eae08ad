import type { ComponentType } from 'react';
import * as wrapped from 'react-apexcharts';
import type { Props } from 'react-apexcharts';

/** The chart component; the package's default export comes wrapped once or twice, depending on the bundler. */
let found: unknown = wrapped;
while (found && typeof found === 'object' && 'default' in found)
  found = (found as { default: unknown }).default;

export default found as ComponentType<Props>;
