import { BarChart } from 'echarts/charts';
import { AriaComponent, GridComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

use([BarChart, GridComponent, AriaComponent, SVGRenderer]);

interface Props {
  readonly label: string;
  readonly bars: readonly { readonly name: string; readonly count: number }[];
}

/** A color of the design, as the page has it now (light or dark). */
const colorOf = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** Steps as bars from the top down, the first the longest; the table beside says the same. */
export function FunnelChart({ label, bars }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = init(box.current, null, { renderer: 'svg' });
    const text = { color: colorOf('--color-foreground'), fontFamily: 'inherit', fontSize: 14 };
    chart.setOption({
      animation: false,
      textStyle: text,
      grid: { left: 132, right: 48, top: 8, bottom: 8 },
      xAxis: { type: 'value', show: false, min: 0 },
      yAxis: {
        ...{ type: 'category', inverse: true, data: bars.map(({ name }) => name) },
        ...{ axisLine: { show: false }, axisTick: { show: false }, axisLabel: text },
      },
      series: [
        {
          ...{ type: 'bar', barWidth: 26, data: bars.map(({ count }) => count), silent: true },
          itemStyle: { color: colorOf('--color-accent'), borderRadius: 4 },
          label: { show: true, position: 'right', ...text },
        },
      ],
    });
    const watch = new ResizeObserver(() => chart.resize());
    watch.observe(box.current);
    return () => {
      watch.disconnect();
      chart.dispose();
    };
  }, [bars]);
  return <div ref={box} role="img" aria-label={label} className="h-72 w-[28rem] max-w-full" />;
}
