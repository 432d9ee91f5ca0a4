import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { constants, gzipSync } from 'node:zlib'
import type { Plugin } from 'vite'

/** What gains nothing: pages that are read as they are, and files that are packed already. */
const asIs = /\.(html|png|jpe?g|woff2|gz)$/

/**
 * Packs the files of a build by gzip, each with .gz after its name and without the plain one beside it, as the service
 * embeds and serves them: smaller, and nothing is packed for each request.
 */
export function packed(): Plugin {
  let out = ''
  return {
    name: 'packed',
    apply: 'build',
    configResolved(config) {
      out = join(config.root, config.build.outDir)
    },
    closeBundle() {
      for (const name of readdirSync(out, { recursive: true, withFileTypes: true })) {
        const file = join(name.parentPath, name.name)
        if (!name.isFile() || asIs.test(file)) continue
        const data = readFileSync(file)
        if (!data.length) continue
        writeFileSync(file + '.gz', gzipSync(data, { level: constants.Z_BEST_COMPRESSION }))
        rmSync(file)
      }
    },
  }
}
