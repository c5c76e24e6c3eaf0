import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { TodayView } from '@woodruff/contract';
import { writtenDate, written } from '@woodruff/core';
import { BarChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { NgxEchartsDirective, provideEchartsCore } from 'ngx-echarts';
import { DayPipe, MoneyPipe } from '../kit/words';

echarts.use([BarChart, GridComponent, TooltipComponent, SVGRenderer]);

/** Gross pay and the employer's taxes and contributions by pay date, with the figures as a table for readers of screens. */
@Component({
  selector: 'wr-cost-chart',
  imports: [DayPipe, MoneyPipe, NgxEchartsDirective],
  providers: [provideEchartsCore({ echarts })],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (costs().length) {
      <p class="key muted"><i class="pay"></i> gross pay and reimbursements <i class="more"></i> employer's taxes and contributions</p>
      <div echarts [options]="options()" [initOpts]="{ renderer: 'svg' }" class="chart" aria-hidden="true"></div>
      <!-- A table does not keep to the height of what hides it. -->
      <div class="visually-hidden">
        <table>
          <caption>
            Cost by pay date
          </caption>
          <tr>
            <th>Pay date</th>
            <th>Gross pay</th>
            <th>Employer's taxes and contributions</th>
          </tr>
          @for (cost of costs(); track cost.payDate) {
            <tr>
              <td>{{ cost.payDate | day }}</td>
              <td>{{ cost.gross | money }}</td>
              <td>{{ cost.employer | money }}</td>
            </tr>
          }
        </table>
      </div>
    } @else {
      <p class="muted">Nothing has been paid yet. The first approved run appears here.</p>
    }
  `,
  styles: `
    .chart {
      height: 220px;
    }
    .key {
      font-size: 13px;
      margin: 4px 0 0;
    }
    i {
      display: inline-block;
      width: 10px;
      height: 10px;
      margin: 0 4px 0 8px;
    }
    .pay {
      background: #1e2730;
      margin-left: 0;
    }
    .more {
      background: #c9a35a;
    }
  `,
})
export class CostChart {
  readonly costs = input.required<TodayView['costs']>();
  protected readonly options = computed(() => ({
    animation: false,
    textStyle: { fontFamily: "'Source Sans 3 Variable', sans-serif", color: '#56606B' },
    grid: { left: 4, right: 4, top: 12, bottom: 4, containLabel: true },
    tooltip: { trigger: 'axis', valueFormatter: (value: number) => written(value) },
    xAxis: {
      type: 'category',
      data: this.costs().map((cost) => writtenDate(cost.payDate).slice(0, -5)),
      axisTick: { show: false },
      axisLine: { lineStyle: { color: '#1E2730' } },
    },
    yAxis: {
      type: 'value',
      splitLine: { lineStyle: { color: '#ECE9E1' } },
      axisLabel: { formatter: (value: number) => `${Math.round(value / 100_000)}k` },
    },
    series: [
      { name: 'Gross pay', type: 'bar', stack: 'cost', data: this.costs().map((cost) => cost.gross), itemStyle: { color: '#1E2730' } },
      {
        name: "Employer's taxes and contributions",
        type: 'bar',
        stack: 'cost',
        data: this.costs().map((cost) => cost.employer),
        itemStyle: { color: '#C9A35A' },
      },
    ],
  }));
}
