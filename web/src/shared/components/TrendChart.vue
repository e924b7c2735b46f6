<template>
  <figure class="trend">
    <figcaption class="label">{{ label }}</figcaption>
    <div class="room">
      <canvas ref="canvas" role="img" :aria-label="describe"></canvas>
    </div>
  </figure>
</template>

<script setup lang="ts">
import type { Chart as ChartOf, ChartConfiguration } from 'chart.js'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'

export interface TrendPoint {
  /** Along the chart: a day in ms, or a piece. */
  at: number
  value: number
  /** Outside what was usual. */
  odd: boolean
  /** Said when it is pointed at. */
  title: string
}
interface Props {
  label: string
  points: TrendPoint[]
  /** What was usual, from low to high about the middle. */
  usual?: { low: number; middle: number; high: number }
  /** A line that is not to be passed. */
  limit?: number
  /** Figures at the axes. */
  say: (value: number) => string
  sayAt: (at: number) => string
}
const props = defineProps<Props>()
const canvas = ref<HTMLCanvasElement>()
const describe = computed(() => {
  const odd = props.points.filter((p) => p.odd).length
  const last = props.points.at(-1)
  const ends = last ? `, the last ${props.say(last.value)}` : ''
  return `${props.label}: ${props.points.length} values${ends}${odd ? `, ${odd} outside what was usual` : ''}.`
})
let chart: ChartOf | undefined
let gone = false

const color = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#555'

/** What was usual as a wash with its middle dashed, and the limit, behind the points. */
const behind = {
  id: 'behind',
  beforeDatasetsDraw({ ctx, chartArea, scales }: ChartOf): void {
    const y = (value: number): number => scales.y?.getPixelForValue(value) ?? 0
    const line = (value: number, ink: string): void => {
      ctx.setLineDash([6, 5])
      ctx.strokeStyle = ink
      ctx.beginPath()
      ctx.moveTo(chartArea.left, y(value))
      ctx.lineTo(chartArea.right, y(value))
      ctx.stroke()
    }
    ctx.save()
    if (props.usual) {
      const top = Math.max(y(props.usual.high), chartArea.top)
      const bottom = Math.min(y(props.usual.low), chartArea.bottom)
      ctx.fillStyle = color('--holds-wash')
      ctx.fillRect(chartArea.left, top, chartArea.width, Math.max(bottom - top, 2))
      line(props.usual.middle, color('--holds'))
    }
    if (props.limit !== undefined) line(props.limit, color('--out'))
    ctx.restore()
  },
}

function config(): ChartConfiguration<'line'> {
  const ink = color('--ink-2')
  const of = <T,>(odd: T, usual: T): T[] => props.points.map((p) => (p.odd ? odd : usual))
  const font = { family: color('--words'), size: 14 }
  return {
    type: 'line',
    data: {
      datasets: [
        {
          data: props.points.map((p) => ({ x: p.at, y: p.value })),
          borderColor: color('--plum-2'),
          borderWidth: 2,
          pointStyle: of('rectRot', 'circle'),
          pointRadius: of(7, 4),
          pointBackgroundColor: of(color('--out'), color('--plum')),
          pointBorderColor: of(color('--out'), color('--plum')),
        },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      layout: { padding: { right: 12 } },
      scales: {
        x: {
          type: 'linear',
          bounds: 'data',
          ticks: { color: ink, font, maxTicksLimit: 7, callback: (at) => props.sayAt(Number(at)) },
          grid: { display: false },
        },
        y: {
          suggestedMin: props.usual?.low ?? 0,
          suggestedMax: Math.max(props.usual?.high ?? 0, props.limit ?? 0),
          ticks: { color: ink, font, maxTicksLimit: 6, callback: (value) => props.say(Number(value)) },
          grid: { color: color('--rule') },
        },
      },
      plugins: {
        tooltip: {
          callbacks: {
            title: (items) => props.points[items[0]?.dataIndex ?? 0]?.title ?? '',
            label: (item) => props.say(Number(item.parsed.y)),
          },
        },
      },
    },
    plugins: [behind],
  }
}

async function draw(): Promise<void> {
  const { Chart, LineController, LineElement, LinearScale, PointElement, Tooltip } = await import('chart.js')
  if (gone || !canvas.value) return
  Chart.register(LineController, LineElement, LinearScale, PointElement, Tooltip)
  chart?.destroy()
  chart = new Chart(canvas.value, config())
}
onMounted(() => void draw())
watch(
  () => [props.points, props.usual, props.say],
  () => void draw(),
)
onBeforeUnmount(() => {
  gone = true
  chart?.destroy()
})
</script>

<style scoped>
.trend {
  margin: 0 0 18px;
}
.room {
  position: relative;
  height: 190px;
}
</style>
