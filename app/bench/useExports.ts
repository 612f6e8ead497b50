import { clampSays } from '../../core/scene/clamp-says'
import { saveFile } from '../files/save-file'

/** What leaves the bench as files. */
export function useExports() {
  const bench = useBench()
  const stage = useStage()
  const say = useSay()

  /** The material with its pictures, or the picture as EXR or PNG. */
  async function exportAs(what: 'material' | 'exr' | 'png'): Promise<void> {
    try {
      if (what === 'material') {
        if (!bench.document) throw new Error('No part is picked.')
        const { writeMaterialFiles } = await import('../files/material-files')
        const { file, bytes } = await writeMaterialFiles(bench.document, bench.materialKey ?? 'material')
        saveFile(file, bytes)
        return
      }
      const picture = stage.session?.picture()
      const loader = stage.loader()
      if (stage.region) throw new Error('A region is rendered: press R to render all of the picture, then export.')
      if (!picture || !loader) throw new Error('The first pass is not complete yet.')
      const { width, height, rgb, passes } = picture
      const name = bench.project?.name.replace(/[^A-Za-z0-9._-]+/g, '_') || 'picture'
      if (what === 'exr')
        saveFile(
          `${name}.exr`,
          await loader.exr(width, height, rgb, {
            'wavelume:passes': `1-${passes}`,
            'wavelume:seed': '0',
            'wavelume:exposure': '0',
            'wavelume:clamps': clampSays(bench.scene?.clamp),
          }),
        )
      else saveFile(`${name}.png`, await loader.png(width, height, rgb, stage.look))
    } catch (e) {
      say.fault('Nothing was exported', messageOf(e))
    }
  }

  return { exportAs }
}
