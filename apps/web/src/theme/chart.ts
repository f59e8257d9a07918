import type { Layout } from 'plotly.js-basic-dist-min';
import { token } from './token';

/** How all charts look. */
export const chartLook = (): Partial<Layout> => ({
  paper_bgcolor: 'transparent',
  plot_bgcolor: 'transparent',
  font: { family: '"Source Sans 3 Variable", sans-serif', color: token('--ink') },
});

/** How axes of charts look. */
export const axisLook = () => ({ gridcolor: token('--edge'), zeroline: false });

/** Charts are read, not edited. */
export const CHART_MANNER = { displayModeBar: false, responsive: true };
