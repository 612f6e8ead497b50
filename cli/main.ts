import { FormatError } from '../core/formats/error'
import { benchmark } from './benchmark'
import { check } from './check'
import { compare } from './compare'
import { convert } from './convert'
import { isolate } from './isolate'
import { measure } from './measure'
import { InputError, parseOptions } from './options'
import { render } from './render'

const COMMANDS: Record<string, (o: ReturnType<typeof parseOptions>) => unknown> = {
  render,
  isolate,
  measure,
  check,
  convert,
  compare,
  benchmark,
  worker: async o => (await import('./worker')).worker(o),
}

const HELP = `wavelume demo | test | dev
wavelume render SCENE -o out.exr [--size 640x400] [--passes N|A-B] [--seed N] [--threads N]
                [--lights NAME] [--camera NAME] [--materials F.mtlx] [--assign PART=MATERIAL]
                [--environment F|uniform:L] [--aov albedo,normal,…,lights,lobes] [--noise 0.02]
                [--max-bounces N] [--clamp RADIANCE] [--unit mm] [--json]
wavelume isolate FILE.mtlx --node NODE [--on plane|sphere|MESH] [--size 64x64] -o out.exr
wavelume measure FILE.mtlx [--material NAME] --angle 0,30,60 [--wavelengths 400:700:10]
                [--from outside|inside] [--samples N] [--slab 2mm] --json
wavelume check FILE.mtlx|SCENE.scene.json [--strict] --json
wavelume convert IN OUT [--space rec709|acescg]
wavelume compare A B [--metric rmse,psnr,deltaE2000] [-o difference.png] --json
wavelume worker [--threads N] [--keep SECONDS] [--once]
                computes frames from the queue of the database in WAVELUME_DATABASE
wavelume benchmark rays|build|copies|paths|against|threads|preview|network|denoise|cards|memory|efficiency|
                chroma|fuzz|scale [--mesh F.ply --rays F.bin] [--tree FOLDER] --json`

/** Runs a command. @returns the exit code: 0, 1 for findings of a strict check, or 2 for bad input */
export async function main(args: string[]): Promise<number> {
  const [name, ...rest] = args
  const command = COMMANDS[name ?? '']
  if (!command) {
    console.error(HELP)
    return name === undefined || name === 'help' || name === '--help' ? 0 : 2
  }
  try {
    const options = parseOptions(rest)
    const result = await command(options)
    if (options.has('json')) console.log(JSON.stringify(result))
    else if (Array.isArray(result))
      for (const line of result)
        console.log(
          line.severity ? `${line.severity}: ${line.where}: ${line.message} ${line.fix}.` : JSON.stringify(line),
        )
    else if (result && typeof result === 'object')
      for (const [k, v] of Object.entries(result))
        console.log(`${k}: ${typeof v === 'object' ? JSON.stringify(v) : v}`)
    return name === 'check' && options.has('strict') && (result as unknown[]).length > 0 ? 1 : 0
  } catch (e) {
    if (e instanceof InputError || e instanceof FormatError || e instanceof RangeError) {
      console.error(e.message)
      return 2
    }
    throw e
  }
}
