<script setup lang="ts">
import Plotly from 'plotly.js-basic-dist-min';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import type { Looks } from '@merry-shadow/core/judge/looks';
import { JUDGES } from '@merry-shadow/core/judge/registry';
import { axisLook, CHART_MANNER, chartLook } from '../theme/chart';
import { useNight } from '../theme/night';
import { token } from '../theme/token';

/** What was measured of a clip, over its time. */
const props = defineProps<{ looks: Looks }>();
const charts = JUDGES.flatMap(({ chart }) => (chart ? [chart] : []));
const column = ref(charts[0].column);
const chosen = computed(() => charts.find((chart) => chart.column === column.value) ?? charts[0]);
const place = ref<HTMLDivElement>();
const night = useNight();

function draw(): void {
  if (!place.value) return;
  const { title, unit, factor = 1 } = chosen.value;
  const { at, rate } = props.looks;
  const values = props.looks[chosen.value.column].map((value) => (value === null ? null : value * factor));
  void Plotly.react(
    place.value,
    [
      {
        x: at.map((frame) => frame / rate),
        y: values,
        mode: 'lines+markers',
        name: title,
        line: { color: token('--amber'), width: 2 },
        marker: { size: 4 },
        hovertemplate: `%{x:.1f} s: %{y:.3~g} ${unit}<extra></extra>`,
      },
    ],
    {
      margin: { l: 64, r: 12, t: 8, b: 44 },
      height: 320,
      ...chartLook(),
      xaxis: { ...axisLook(), title: { text: 'Time (s)' } },
      yaxis: { ...axisLook(), title: { text: unit ? `${title} (${unit})` : title }, rangemode: 'tozero' },
    },
    CHART_MANNER,
  );
}
onMounted(draw);
onUnmounted(() => place.value && Plotly.purge(place.value));
watch(() => [column.value, props.looks, night.night], draw);
</script>

<template>
  <el-select v-model="column" aria-label="Value" class="choice">
    <el-option v-for="chart in charts" :key="chart.column" :value="chart.column" :label="chart.title" />
  </el-select>
  <div ref="place" role="img" :aria-label="`${chosen.title} over time`"></div>
</template>

<style scoped>
.choice {
  margin-bottom: 8px;
  max-width: 360px;
}
</style>
