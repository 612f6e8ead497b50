/** Apache ECharts with the parts that curves need, fetched when a chart is first drawn. */
import { LineChart } from 'echarts/charts'
import { GridComponent, PolarComponent, TooltipComponent } from 'echarts/components'
import { init, use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'

use([LineChart, GridComponent, PolarComponent, TooltipComponent, SVGRenderer])
export { init }
