<script setup lang="ts">
/** Lines over time, in the colours of the light that is on; loaded only where it is shown. */
import { LineChart } from "echarts/charts";
import { GridComponent, LegendComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { computed } from "vue";
import VChart from "vue-echarts";
import { useTheme } from "vuetify";

use([LineChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer]);

export interface Line {
  name: string;
  /** x and y of each point. */
  points: [number, number][];
  strong?: boolean;
}

const props = defineProps<{
  lines: Line[];
  xUnit: string;
  yUnit: string;
  xMax?: number;
  yMax?: number;
  step?: boolean;
  label: string;
}>();

const theme = useTheme();
const DASHES = ["solid", "dashed", "dotted", [8, 3, 2, 3], [2, 4], [12, 4]] as const;
const SIGNS = ["circle", "rect", "triangle", "diamond", "pin", "arrow"];
const FONT = "Atkinson Hyperlegible Next Variable, sans-serif";

const option = computed(() => {
  const colors = theme.current.value.colors as unknown as Record<string, string>;
  const ink = colors["ink"] ?? "#000";
  const palette = [colors["secondary"], colors["warning"], colors["success"], ink, colors["error"]];
  const text = { color: colors["on-background"], fontFamily: FONT, fontSize: 13 };
  return {
    animation: false,
    textStyle: text,
    grid: { left: 52, right: 24, top: 40, bottom: 34 },
    legend: { top: 0, textStyle: text, itemWidth: 34 },
    tooltip: { trigger: "axis", valueFormatter: (v: number) => `${v.toFixed(1)} ${props.yUnit}` },
    xAxis: {
      type: "value",
      min: 0,
      max: props.xMax,
      interval: props.xMax === 24 ? 3 : undefined,
      axisLabel: { ...text, hideOverlap: true, formatter: `{value}${props.xUnit}` },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: ink } },
    },
    yAxis: {
      type: "value",
      max: props.yMax,
      axisLabel: { ...text, formatter: `{value} ${props.yUnit}` },
      splitLine: { lineStyle: { color: ink, opacity: 0.15 } },
    },
    series: props.lines.map((line, n) => ({
      name: line.name,
      type: "line",
      step: props.step ? "end" : false,
      data: line.points,
      showSymbol: false,
      symbol: SIGNS[n % SIGNS.length],
      color: palette[n % palette.length],
      lineStyle: {
        width: line.strong === false ? 1.6 : 3.2,
        type: DASHES[n % DASHES.length],
      },
    })),
  };
});
</script>

<template>
  <div class="chart" role="img" :aria-label="label">
    <VChart :option="option" autoresize />
  </div>
</template>

<style scoped>
.chart {
  height: 250px;
}
</style>
