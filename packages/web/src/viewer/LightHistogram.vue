<script setup lang="ts">
import { BarChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use, type EChartsType } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { stopsHistogram, zoneOf, ZONES } from '@tender-orbit/core/picture';

use([BarChart, GridComponent, TooltipComponent, SVGRenderer]);

/** How the picture's light is spread over stops from middle grey, in the false colours of the picture above it. */
const { luminance } = defineProps<{ luminance: Float32Array }>();
const box = ref<HTMLElement>();
const histogram = computed(() => stopsHistogram(luminance));
const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
let chart: EChartsType | null = null;

function draw(): void {
  const { stops, share } = histogram.value;
  const colour = (i: number): string => `rgb(${ZONES[zoneOf(stops[i])].colour.join(',')})`;
  // A figure at each second whole stop.
  const ticks = {
    ...{ color: '#A79FB5', fontSize: 12 },
    interval: (i: number) => i % 8 === 0,
    formatter: (label: string) => String(Math.floor(Number(label))),
  };
  chart?.setOption({
    animation: false,
    grid: { left: 8, right: 8, top: 6, bottom: 22 },
    tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => percent(Number(v)) },
    xAxis: {
      ...{ type: 'category', data: stops.map((s) => s.toFixed(2)), axisTick: { show: false }, axisLabel: ticks },
      axisLine: { lineStyle: { color: '#3A3446' } },
    },
    yAxis: { type: 'value', show: false },
    series: [
      {
        type: 'bar',
        barCategoryGap: '8%',
        data: share.map((value, i) => ({ value, itemStyle: { color: colour(i) } })),
      },
    ],
  });
}
onMounted(() => {
  chart = init(box.value!, null, { renderer: 'svg' });
  draw();
});
onBeforeUnmount(() => chart?.dispose());
watch(histogram, draw);
</script>

<template>
  <section class="meter card" aria-label="Light meter" data-test="histogram">
    <div ref="box" class="chart" role="img" :aria-label="`Histogram in stops: ${percent(histogram.burnt)} burnt out`" />
    <div class="row legend">
      <span v-for="zone in ZONES" :key="zone.name" class="zone">
        <span class="dot" :style="{ background: `rgb(${zone.colour.join(',')})` }" />{{ zone.name }}
      </span>
    </div>
    <p class="dim mono">burnt out {{ percent(histogram.burnt) }}, black {{ percent(histogram.black) }}</p>
  </section>
</template>

<style scoped>
.meter {
  position: absolute;
  right: 8px;
  bottom: 8px;
  width: 300px;
  padding: 8px;
  opacity: 0.96;
}
.chart {
  height: 92px;
}
.legend {
  flex-wrap: wrap;
  gap: 2px 8px;
  font-size: 12px;
}
.zone {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
.dot {
  width: 9px;
  height: 9px;
  border-radius: 2px;
}
p {
  margin: 4px 0 0;
}
</style>
