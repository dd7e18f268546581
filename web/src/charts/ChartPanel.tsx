import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import type { Layout, PlotData, PlotHoverEvent, PlotlyHTMLElement } from 'plotly.js'
import { useEffect, useMemo, useRef, useState } from 'react'
import { opName } from '../bench/names'
import { type ChartData, type ChartKind, lathe } from '../engine'
import { type Marked, useSession } from '../session/session'
import { Button, Choice, CommitInput, IconButton } from '../ui/controls'
import { downloadFile } from '../ui/download'
import { typedNumber } from '../ui/number'
import { alongPath, CHARTS } from './kinds'
import { type Series, seriesCsv, seriesOf } from './series'

const NO_LIMITS = {}
const close = () => useSession.setState({ chart: null, marked: null, touched: null })

/** A chart of one body in place of the Table; what is pointed at in it is marked on the Stage, and back. */
export default function ChartPanel() {
  const chart = useSession((s) => s.chart)!
  const selected = useSession((s) => s.selected)
  const doc = useSession((s) => s.doc)!
  const bodies = useSession((s) => s.settled?.bodies) ?? []
  const datums = useSession((s) => s.settled?.datums)
  const paths = (datums ?? []).filter((d) => d.kind === 'path')
  const path = alongPath(chart.kind)
    ? (paths.find((p) => p.id === chart.path) ?? paths.find((p) => p.id === selected) ?? paths[0])
    : undefined
  const body = bodies.find((b) => b.id === chart.body) ?? bodies[0]
  const limits = useSession(
    (s) =>
      s.settled?.gauges.find((g) => g.kind === 'wall' && g.body === body?.id)?.limits ??
      s.doc?.brief.targets.wall ??
      NO_LIMITS,
  )
  const { data, isFetching } = useQuery({
    queryKey: [
      'chart',
      doc.route,
      doc.figures,
      doc.bodies,
      doc.brief,
      body?.id,
      path?.id,
      chart.kind,
    ],
    queryFn: () =>
      lathe.call(
        'chart',
        { doc, body: body?.id ?? '', path: path?.id, kind: chart.kind },
        { budget: 120_000 },
      ),
    enabled: body !== undefined || path !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
  })
  const series = useMemo(() => (data ? seriesOf(data, limits) : null), [data, limits])
  const [every, setEvery] = useState(10)
  const [said, setSaid] = useState('')
  const name = `${doc.name} ${CHARTS.find((c) => c.kind === chart.kind)!.label}`
  const plot = useRef<HTMLDivElement>(null)
  const saveSvg = async () => {
    const { toImage } = await import('plotly.js-basic-dist-min')
    const url = await toImage(plot.current as unknown as PlotlyHTMLElement, {
      format: 'svg',
      width: 900,
      height: 500,
    })
    downloadFile(
      `${name}.svg`,
      'image/svg+xml',
      decodeURIComponent(url.slice(url.indexOf(',') + 1)),
    )
  }
  const saveScale = async () => {
    const svg = await lathe.call('scale', { doc, body: body!.id, every })
    if (svg) downloadFile(`${doc.name} scale.svg`, 'image/svg+xml', svg)
    setSaid(svg ? '' : `No mark every ${every} ml fits between the floor and the brim.`)
  }
  return (
    <section aria-label="Chart" data-theme="light" className="flex h-full flex-col bg-sheet">
      <div className="flex flex-wrap items-center gap-2 border-rule border-b px-2 py-1">
        <Choice
          label="Chart"
          value={chart.kind}
          options={CHARTS.map((c) => ({ value: c.kind, label: c.label }))}
          onChange={(kind) =>
            useSession.setState({ chart: { ...chart, kind: kind as ChartKind }, marked: null })
          }
        />
        {paths.length > 1 && path && (
          <Choice
            label="Path of the chart"
            value={path.id}
            options={paths.map((p) => ({ value: p.id, label: opName(doc, p.id) }))}
            onChange={(id) => useSession.setState({ chart: { ...chart, path: id } })}
          />
        )}
        {bodies.length > 1 && chart.kind !== 'bending' && (
          <Choice
            label="Body of the chart"
            value={body?.id ?? ''}
            options={bodies.map((b) => ({ value: b.id, label: b.name }))}
            onChange={(id) => useSession.setState({ chart: { ...chart, body: id } })}
          />
        )}
        <Button disabled={!series} onClick={() => void saveSvg()}>
          SVG
        </Button>
        <Button
          disabled={!series}
          onClick={() => series && downloadFile(`${name}.csv`, 'text/csv', seriesCsv(series))}
        >
          CSV
        </Button>
        {chart.kind === 'fill' && series && (
          <span className="flex items-center gap-1">
            <Button onClick={() => void saveScale()}>Scale, full size</Button>
            every
            <CommitInput
              aria-label="Marks every, ml"
              className="figures w-14"
              value={String(every)}
              onCommit={(t) => setEvery(typedNumber(t) ?? every)}
            />
            ml
          </span>
        )}
        <IconButton label="Close the chart" className="ml-auto" onClick={close}>
          <X size={15} />
        </IconButton>
      </div>
      <p className="px-3 pt-1 text-sm" aria-live="polite" data-testid="chart-says">
        {said ||
          (isFetching
            ? 'Reading…'
            : (series?.says ??
              (alongPath(chart.kind) && !path
                ? 'There is no path yet: draw one, or follow edges of a body with one.'
                : chart.kind === 'fill'
                  ? 'The body holds nothing: it has no hollow that is open at the top.'
                  : 'There is nothing to show here.')))}
      </p>
      <div className="min-h-0 flex-1">
        {series && data && <Plot data={data} series={series} at={plot} />}
      </div>
    </section>
  )
}

const INK = '#2b2620'
/** Letters as on the rest of the page: the chart takes no inherited ones. */
const font = () => ({ family: getComputedStyle(document.body).fontFamily, color: INK, size: 13 })

function Plot({
  data,
  series,
  at,
}: {
  data: ChartData
  series: Series
  at: React.RefObject<HTMLDivElement | null>
}) {
  const touched = useSession((s) => s.touched)
  const pointed = touched && touchedAt(data, touched)
  const [shown, setShown] = useState<Series | null>(null)
  useEffect(() => {
    let gone = false
    const div = at.current!
    void import('plotly.js-basic-dist-min').then(async (plotly) => {
      if (gone) return
      const { traces, layout } = drawn(series)
      const made = await plotly.newPlot(div, traces, layout, {
        displayModeBar: false,
        responsive: true,
      })
      made.on('plotly_hover', (e: PlotHoverEvent) => {
        const i = e.points[0]?.pointIndex
        if (i !== undefined) useSession.setState({ marked: markOf(data, i) })
      })
      made.on('plotly_unhover', () => useSession.setState({ marked: null }))
      if (!gone) setShown(series)
    })
    return () => {
      gone = true
    }
  }, [series, data, at])
  useEffect(() => {
    if (shown !== series) return
    void import('plotly.js-basic-dist-min').then((plotly) =>
      plotly.relayout(at.current as unknown as PlotlyHTMLElement, {
        shapes: linesOf(series, pointed),
      }),
    )
  }, [shown, series, pointed, at])
  useEffect(() => {
    const div = at.current
    return () => {
      if (div) void import('plotly.js-basic-dist-min').then((plotly) => plotly.purge(div))
    }
  }, [at])
  return <div ref={at} data-testid="chart" className="size-full" />
}

/** Upright lines: limits, and where the pointer is on the Stage. */
function linesOf(s: Series, pointed: number | null) {
  const line = (x: number, color: string, dash: 'solid' | 'dash') => ({
    type: 'line' as const,
    x0: x,
    x1: x,
    yref: 'paper' as const,
    y0: 0,
    y1: 1,
    line: { color, width: 1.5, dash },
  })
  return [
    ...s.limits.map((l) => line(l.at, '#8c2a16', 'dash')),
    ...(pointed === null ? [] : [line(pointed, '#c98a1b', 'solid')]),
  ]
}

function drawn(s: Series) {
  const traces: Partial<PlotData>[] = [
    s.bars
      ? {
          type: 'bar',
          x: s.x,
          y: s.y,
          width: s.widths!,
          marker: { color: '#c9a35c', line: { color: '#7a5310', width: 0.5 } },
          name: s.yLabel,
        }
      : {
          type: 'scatter',
          mode: 'lines',
          x: s.x,
          y: s.y,
          line: { color: '#7a5310', width: 2 },
          name: s.yLabel,
        },
    ...[...(s.more ? [s.more] : []), ...(s.others ?? [])].map((f, k) => ({
      type: 'scatter' as const,
      mode: 'lines' as const,
      x: s.x,
      y: f.y,
      yaxis: 'y2',
      line: { color: '#2f6f62', width: 2, dash: k === 0 ? ('dash' as const) : ('dot' as const) },
      name: f.label,
    })),
  ]
  const axis = {
    hoverformat: '.1f',
    gridcolor: '#e4dcc8',
    zeroline: false,
    linecolor: INK,
    ticks: 'outside' as const,
  }
  const layout: Partial<Layout> = {
    margin: { l: 56, r: s.more ? 56 : 16, t: s.more ? 24 : 8, b: 40 },
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    font: font(),
    showlegend: Boolean(s.more),
    legend: { orientation: 'h', y: 1, yanchor: 'bottom', x: 0 },
    hovermode: 'x',
    xaxis: { ...axis, title: { text: s.xLabel } },
    yaxis: { ...axis, title: { text: s.yLabel }, rangemode: 'tozero' },
    ...(s.more
      ? {
          yaxis2: {
            ...axis,
            overlaying: 'y',
            side: 'right',
            tickmode: 'auto',
            title: { text: [s.more, ...(s.others ?? [])].map((f) => f.label).join(' · ') },
            rangemode: Math.min(...s.more.y) < 0 ? 'normal' : 'tozero',
            showgrid: false,
          },
        }
      : {}),
    shapes: linesOf(s, null),
    annotations: s.limits.map((l) => ({
      x: l.at,
      y: 1,
      yref: 'paper' as const,
      text: l.label,
      showarrow: false,
      xanchor: 'left' as const,
      font: { ...font(), color: '#8c2a16' },
    })),
  }
  return { traces, layout }
}

/** What a point of the chart stands for on the Stage. */
function markOf(data: ChartData, i: number): Marked {
  if (data.kind === 'walls') return { from: data.walls.from[i]!, to: data.walls.to[i]! }
  if (data.kind === 'fill')
    return { along: 'z' as const, at: data.fill.floor + data.fill.heights[i]! }
  if (data.kind === 'bending') return { spot: data.bending.places[i]! }
  if (data.kind === 'sections') return { spot: data.sections.places[i]! }
  return { along: data.along, at: data.section.at[i]! }
}

/** Where a place on the Stage stands in the chart; null where it has no place there. */
function touchedAt(data: ChartData, [x, y, z]: readonly [number, number, number]): number | null {
  if (data.kind === 'walls') return null
  const along =
    data.kind === 'bending' ? data.bending : data.kind === 'sections' ? data.sections : null
  if (along) {
    const off = along.places.map((p) => Math.hypot(p[0] - x, p[1] - y, p[2] - z))
    return along.at[off.indexOf(Math.min(...off))] ?? null
  }
  if (data.kind === 'bending' || data.kind === 'sections') return null
  const at = data.kind === 'fill' ? z - data.fill.floor : { x, y, z }[data.along]
  return Math.round(at * 5) / 5
}
