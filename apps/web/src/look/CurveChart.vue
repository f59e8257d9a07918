<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import Plotly from 'plotly.js-basic-dist-min';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import { useOpenTake } from '../take/open-take';
import { axisLook, CHART_MANNER, chartLook } from '../theme/chart';
import { useNight } from '../theme/night';
import { token } from '../theme/token';
import { CURVE_UNITS, takeCurves, type CurveUnit } from './take-curves';

/** What can be read of the body, hands and face against the take's frames, a row for each unit, with the frame that is shown; a click goes to a frame. */
const { shown: solved, frame, firstObserved, goTo, plants } = useOpenTake();
const chosen = useLocalStorage<string[]>('merry-shadow.chart', [
  'height.leftHeel',
  'height.rightHeel',
  'speed.rightHand',
  'face.jawOpen',
]);
const curves = computed(() => (solved.value ? takeCurves(solved.value.motion) : []));
const drawn = computed(() => curves.value.filter(({ id }) => chosen.value.includes(id)));
const place = ref<HTMLDivElement>();
const night = useNight();
/** Colours that can be told apart on both grounds, with dashes so that colour never stands alone. */
const TONES = ['--amber', '--left', '--right', '--berry', '--sage', '--ink'] as const;
const DASHES = ['solid', 'dot', 'dash'] as const;
const tone = (i: number): string => token(TONES[i % TONES.length]);
/** Height of a row, and of what lies above and below all, pixels. */
const ROW = 150;
const MARGIN = 60;
/** Units that are drawn, from above. */
const units = computed(() =>
  (Object.keys(CURVE_UNITS) as CurveUnit[]).filter((unit) => drawn.value.some((curve) => curve.unit === unit)),
);
/** Plotly's name of a row's axis: y, y2, y3. */
const axisOf = (unit: CurveUnit): string => {
  const row = units.value.indexOf(unit);
  return row > 0 ? `y${row + 1}` : 'y';
};

const now = (): object => ({
  type: 'line',
  x0: frame.value + firstObserved.value,
  x1: frame.value + firstObserved.value,
  yref: 'paper',
  y0: 0,
  y1: 1,
  line: { color: token('--ink'), width: 1.5 },
});

/** Height of a bar, as a part of its row. */
const BAR = 0.045;
/** Bars under the heights of soles, where these are planted, one above the other. */
const planted = (): object[] =>
  drawn.value
    .flatMap(({ part, unit }, i) => (part ? [{ part, unit, fillcolor: tone(i) }] : []))
    .flatMap(({ part, unit, fillcolor }, i) =>
      plants.value
        .filter((plant) => plant.part === part)
        .map(({ from, until }) => ({
          type: 'rect',
          x0: from + firstObserved.value,
          x1: until - 1 + firstObserved.value,
          yref: `${axisOf(unit)} domain`,
          y0: i * BAR,
          y1: (i + 0.8) * BAR,
          line: { width: 0 },
          fillcolor,
          opacity: 0.6,
        })),
    );
const shapes = (): object[] => [now(), ...planted()];

/** The rows from above, each with its unit. */
function rows(): Record<string, object> {
  const part = 1 / Math.max(1, units.value.length);
  return Object.fromEntries(
    units.value.map((unit, row) => [
      axisOf(unit).replace('y', 'yaxis'),
      {
        ...axisLook(),
        title: { text: CURVE_UNITS[unit] },
        domain: [1 - (row + 0.88) * part, 1 - row * part],
        ...(unit === '' && { range: [0, 1.02] }),
      },
    ]),
  );
}

async function draw(): Promise<void> {
  const [box, take] = [place.value, solved.value];
  if (!box || !take) return;
  const frames = Array.from({ length: take.motion.frames }, (_, i) => i + firstObserved.value);
  const chart = await Plotly.react(
    box,
    drawn.value.map(({ title, unit, values }, i) => ({
      x: frames,
      y: values(take.motion),
      mode: 'lines',
      name: unit ? `${title} (${unit})` : title,
      yaxis: axisOf(unit),
      line: { color: tone(i), width: 2, dash: DASHES[Math.floor(i / TONES.length) % DASHES.length] },
      hovertemplate: `frame %{x}: %{y:.2f} ${unit}<extra>${title}</extra>`,
    })),
    {
      margin: { l: 58, r: 12, t: 8, b: 40 },
      height: MARGIN + ROW * Math.max(1, units.value.length),
      ...chartLook(),
      legend: { orientation: 'h', y: 1, yanchor: 'bottom' },
      // The frames stand below the last row.
      xaxis: { ...axisLook(), title: { text: 'Frame' }, anchor: axisOf(units.value.at(-1) ?? '') },
      ...rows(),
      shapes: shapes(),
    } as Partial<Plotly.Layout>,
    CHART_MANNER,
  );
  chart.removeAllListeners('plotly_click');
  chart.on('plotly_click', ({ points }: Plotly.PlotMouseEvent) => points[0] && goTo(Number(points[0].x)));
}
onMounted(draw);
onUnmounted(() => place.value && Plotly.purge(place.value));
watch(() => [drawn.value, solved.value, plants.value, night.night], draw);
watch(frame, () => place.value && void Plotly.relayout(place.value, { shapes: shapes() as Partial<Plotly.Shape>[] }));
</script>

<template>
  <el-select
    v-model="chosen"
    multiple
    filterable
    collapse-tags
    :max-collapse-tags="4"
    aria-label="Readings"
    placeholder="Choose what to read"
    class="choice"
  >
    <el-option v-for="{ id, title } in curves" :key="id" :value="id" :label="title" />
  </el-select>
  <div ref="place" role="img" aria-label="Readings over the take's frames"></div>
</template>

<style scoped>
.choice {
  margin-bottom: 6px;
}
</style>
