import { benchmarkRays } from './benchmark-rays'
export async function main(args: string[]) { const o=(n:string)=>args[args.indexOf('--'+n)+1]!; console.log(JSON.stringify(benchmarkRays(o('mesh'),o('rays')))); return 0 }
