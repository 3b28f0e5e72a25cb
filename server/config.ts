import { parseArgs } from 'node:util'
import * as v from 'valibot'

const Port = v.pipe(
  v.string(),
  v.digits(),
  v.transform(Number),
  v.integer(),
  v.minValue(0),
  v.maxValue(65535),
)

const Settings = v.object({
  /** Folder of the database. */
  dataDir: v.string(),
  port: Port,
  /** Address to listen on; loopback unless told otherwise. */
  host: v.string(),
  /** Host names, besides the loopback ones, under which the app may be called. */
  allowedHosts: v.array(v.string()),
  /** Take the next free port when the wanted one is in use. */
  anyPort: v.boolean(),
  logLevel: v.picklist(['silent', 'error', 'warn', 'info', 'debug']),
})

export type Settings = v.InferOutput<typeof Settings>

export const HELP = `Usage: npm start -- [options]
  --data DIR         folder of the database        (BALDACCHINO_DATA, default ./data)
  --port N           port, 0 for any free one      (BALDACCHINO_PORT, default 4317)
  --any-port         take another port when it is in use
  --host ADDRESS     address to listen on          (BALDACCHINO_HOST, default 127.0.0.1)
  --allow-host NAME  further host name of this app (may be repeated)
  --log LEVEL        silent, error, warn, info or debug (BALDACCHINO_LOG, default warn)`

/** Reads options, then environment variables, then defaults. @throws Error with a sentence for the terminal */
export function readSettings(args: string[], env: NodeJS.ProcessEnv): Settings {
  const { values } = parseArgs({
    args,
    options: {
      data: { type: 'string' },
      port: { type: 'string' },
      host: { type: 'string' },
      'any-port': { type: 'boolean' },
      'allow-host': { type: 'string', multiple: true },
      log: { type: 'string' },
    },
  })
  const result = v.safeParse(Settings, {
    dataDir: values.data ?? env.BALDACCHINO_DATA ?? 'data',
    port: values.port ?? env.BALDACCHINO_PORT ?? '4317',
    host: values.host ?? env.BALDACCHINO_HOST ?? '127.0.0.1',
    allowedHosts: values['allow-host'] ?? [],
    anyPort: values['any-port'] ?? false,
    logLevel: values.log ?? env.BALDACCHINO_LOG ?? 'warn',
  })
  if (!result.success) {
    const issue = result.issues[0]
    throw new Error(`Option ${v.getDotPath(issue)}: ${issue.message}\n${HELP}`)
  }
  return result.output
}
