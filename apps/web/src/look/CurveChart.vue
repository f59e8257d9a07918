<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import Plotly from 'plotly.js-basic-dist-min';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import { useOpenTake } from '../take/open-take';
import { axisLook, CHART_MANNER, chartLook } from '../theme/chart';
import { useNight } from '../theme/night';
import { token } from '../theme/token';
import { takeCurves } from './take-curves';

/** Curves of hands and face against the take's frames, with the frame that is shown; a click goes to a frame. */
const { shown: solved, frame, firstObserved, goTo } = useOpenTake();
const chosen = useLocalStorage<string[]>('merry-shadow.curves', ['face.jawOpen', 'face.eyeBlinkLeft', 'left.Index']);
const curves = computed(() => (solved.value ? takeCurves(solved.value.motion) : []));
const drawn = computed(() => curves.value.filter(({ id }) => chosen.value.includes(id)));
const place = ref<HTMLDivElement>();
const night = useNight();
/** Colours that can be told apart on both grounds, with dashes so that colour never stands alone. */
const TONES = ['--amber', '--left', '--right', '--berry', '--sage', '--ink'] as const;
const DASHES = ['solid', 'dot', 'dash'] as const;

const now = (): object => ({
  type: 'line',
  x0: frame.value + firstObserved.value,
  x1: frame.value + firstObserved.value,
  yref: 'paper',
  y0: 0,
  y1: 1,
  line: { color: token('--ink'), width: 1.5 },
});

async function draw(): Promise<void> {
  const [box, take] = [place.value, solved.value];
  if (!box || !take) return;
  const axis = axisLook();
  const frames = Array.from({ length: take.motion.frames }, (_, i) => i + firstObserved.value);
  const chart = await Plotly.react(
    box,
    drawn.value.map(({ title, unit, values }, i) => ({
      x: frames,
      y: values(take.motion),
      mode: 'lines',
      name: unit ? `${title} (${unit})` : title,
      yaxis: unit ? 'y2' : 'y',
      line: {
        color: token(TONES[i % TONES.length]),
        width: 2,
        dash: DASHES[Math.floor(i / TONES.length) % DASHES.length],
      },
      hovertemplate: `frame %{x}: %{y:.2f} ${unit}<extra>${title}</extra>`,
    })),
    {
      margin: { l: 52, r: 52, t: 8, b: 40 },
      height: 260,
      ...chartLook(),
      legend: { orientation: 'h', y: 1.16 },
      xaxis: { ...axis, title: { text: 'Frame' } },
      yaxis: { ...axis, title: { text: 'Strength' }, range: [0, 1.02] },
      yaxis2: { ...axis, title: { text: 'Degrees' }, overlaying: 'y', side: 'right', showgrid: false },
      shapes: [now()],
    },
    CHART_MANNER,
  );
  chart.removeAllListeners('plotly_click');
  chart.on('plotly_click', ({ points }: Plotly.PlotMouseEvent) => points[0] && goTo(Number(points[0].x)));
}
onMounted(draw);
onUnmounted(() => place.value && Plotly.purge(place.value));
watch(() => [drawn.value, solved.value, night.night], draw);
watch(frame, () => place.value && void Plotly.relayout(place.value, { shapes: [now()] }));
</script>

<template>
  <el-select
    v-model="chosen"
    multiple
    filterable
    collapse-tags
    :max-collapse-tags="4"
    aria-label="Curves"
    placeholder="Choose curves"
    class="choice"
  >
    <el-option v-for="{ id, title } in curves" :key="id" :value="id" :label="title" />
  </el-select>
  <div ref="place" role="img" aria-label="Curves of hands and face over the take's frames"></div>
</template>

<style scoped>
.choice {
  margin-bottom: 6px;
}
</style>
