import { execFile } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import Ajv2020 from 'ajv/dist/2020'
import { writeSite } from '../core/site'
import { beforeReview, fernhollow, studioCorner } from '../tools/demoSites'
import { answerTo, type Said } from './answer'
import { COMMANDS } from './usage'

const folder = mkdtempSync(join(tmpdir(), 'vestibule-cli-'))
const file = (name: string, text: string): string => {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}
const vestibule = (...words: string[]): Promise<Said> => answerTo(words, () => '')

describe('the program itself', () => {
  const started = (input: string, ...words: string[]): Promise<Said> =>
    new Promise((resolve) => {
      const child = execFile(
        process.execPath,
        ['cli/vestibule.mjs', ...words],
        { maxBuffer: 1 << 26 },
        (error, out, err) => resolve({ exit: typeof error?.code === 'number' ? error.code : 0, out, err }),
      )
      child.stdin!.end(input)
    })
  it('exits with the code, and says on its outputs what the answer is', async () => {
    expect(await started('', 'check', 'demo/before-review.json')).toEqual(
      await vestibule('check', 'demo/before-review.json'),
    )
    expect(await started('', 'dance')).toEqual({
      exit: 2,
      out: '',
      err: 'vestibule: there is no command "dance"; see "vestibule help"\n',
    })
  })
  it('reads standard input where a command says so', async () => {
    const { out } = await vestibule('ir', 'encode', '--protocol', 'nec', '--address', '4', '--command', '26')
    expect(JSON.parse((await started(out, 'ir', 'decode', '--json')).out)).toEqual([
      { protocol: 'nec', address: 4, command: 26, toggle: null },
    ])
  })
})

describe('the demo files', () => {
  it.each([studioCorner(), beforeReview(), fernhollow()])('demo/$id.json is what the demo’s source gives', (site) =>
    expect(readFileSync(`demo/${site.id}.json`, 'utf8')).toBe(writeSite(site)),
  )
})

describe('check', () => {
  it('studio-corner: no errors, exit 0', async () => {
    const { exit, out } = await vestibule('check', 'demo/studio-corner.json', '--json')
    expect(exit).toBe(0)
    expect(JSON.parse(out)).toEqual({ findings: [] })
  })
  it('before-review: exit 1, at least 8 ids, each severity', async () => {
    const { exit, out } = await vestibule('check', 'demo/before-review.json', '--json')
    expect(exit).toBe(1)
    const { findings } = JSON.parse(out) as { findings: { id: string; severity: string }[] }
    expect(new Set(findings.map((f) => f.id)).size).toBeGreaterThanOrEqual(8)
    expect(new Set(findings.map((f) => f.severity))).toEqual(new Set(['danger', 'error', 'warning', 'note']))
  })
  const whole = readFileSync('demo/studio-corner.json', 'utf8')
  it.each([
    ['truncated', file('truncated.json', whole.slice(0, 700)), /line \d+, column \d+: the text is not whole JSON/],
    ['huge', file('huge.json', `"${'x'.repeat(20 * 1024 * 1024)}"`), /holds 20.0 MiB, at most 4 MiB are read/],
    [
      'wrong version',
      file('version.json', whole.replace('"version": 5', '"version": 7')),
      /version: is 7; this program reads versions 1 to 5/,
    ],
    [
      'wrong type',
      file('type.json', whole.replace('"watts": 9', '"watts": "nine"')),
      /loads\[0\]\.watts: Invalid input: expected number/,
    ],
    ['not there', join(folder, 'nowhere.json'), /there is no such file/],
    ['a folder', folder, /is not a file/],
  ])('%s: exit 2, one line that names the place', async (_, path, message) => {
    const { exit, out, err } = await vestibule('check', path, '--json')
    expect(exit).toBe(2)
    expect(out).toBe('')
    expect(err).toMatch(message)
    expect(err.trimEnd().split('\n')).toHaveLength(1)
    expect(err).toContain(path)
  })
})

describe('pins', () => {
  it('gives per controller the roles with pin, label, GPIO, reason and cost', async () => {
    const { exit, out } = await vestibule('pins', 'demo/fernhollow.json', '--json')
    expect(exit).toBe(0)
    const { controllers } = JSON.parse(out) as {
      controllers: { controller: string; roles: Record<string, unknown>[] }[]
    }
    expect(controllers.map((c) => c.controller)).toEqual([
      'throwing',
      'glaze',
      'yard',
      'drying',
      'drying-radio',
      'window',
    ])
    for (const role of controllers.flatMap((c) => c.roles))
      expect(Object.keys(role)).toEqual(['role', 'name', 'pin', 'label', 'gpio', 'locked', 'cost', 'reason'])
  })
})

describe('run', () => {
  const trace = file(
    't.jsonl',
    [
      '{"t":0,"power":"on"}',
      '{"t":400,"link":"up"}',
      '{"t":1000,"pin":"s1","level":0}',
      '{"t":1100,"pin":"s1","level":1}',
      '{"t":2000,"msg":{"topic":"vestibule/studio-corner/corner/vp/2/set","payload":"1","retain":false}}',
      '{"t":2500,"msg":{"topic":"vestibule/studio-corner/corner/desk-lamp/set","payload":"\\"odd\\u00e9","retain":false}}',
      '{"t":9000,"power":"off"}',
      '{"t":9500,"power":"on"}',
      '{"t":20000,"end":true}',
    ].join('\n'),
  )
  const words = ['run', 'demo/studio-corner.json', '--controller', 'corner', '--trace', trace, '--engine']
  it('core and firmware print the same bytes', async () => {
    const core = await vestibule(...words, 'core')
    const firmware = await vestibule(...words, 'firmware')
    expect(core.exit).toBe(0)
    expect(core.out.split('\n').length).toBeGreaterThan(15)
    expect(firmware).toEqual(core)
  })
  it('the 8-bit board on the simulator does the same as the interpreter', async () => {
    const two = join(mkdtempSync(join(tmpdir(), 'vestibule-cli-')), 'drying.jsonl')
    writeFileSync(
      two,
      '{"t":0,"power":"on"}\n{"t":500,"char":"A"}\n{"t":900,"pin":"s11","level":0}\n{"t":1500,"end":true}\n',
    )
    const drying = ['run', 'demo/fernhollow.json', '--controller', 'drying', '--trace', two, '--engine']
    const outputs = (text: string) => text.split('\n').filter((line) => line.includes('"out":"rack-lights"'))
    const core = outputs((await vestibule(...drying, 'core')).out)
    const board = outputs((await vestibule(...drying, 'simavr')).out)
    expect(core.length).toBeGreaterThanOrEqual(3)
    // the interpreter also says that the contact rests at power-up
    expect(board).toEqual(core.slice(1))
    expect(
      (
        await vestibule(
          'run',
          'demo/studio-corner.json',
          '--controller',
          'corner',
          '--trace',
          two,
          '--engine',
          'simavr',
        )
      ).exit,
    ).toBe(2)
  }, 60_000)
  it.each([['core'], ['firmware']])('%s refuses a trace with an unknown pin in the same words', async (engine) => {
    const bad = file('bad.jsonl', '{"t":0,"pin":"s9","level":0}\n')
    expect(
      await vestibule('run', 'demo/studio-corner.json', '--controller', 'corner', '--trace', bad, '--engine', engine),
    ).toEqual({ exit: 2, out: '', err: 'vestibule: there is no input "s9" on controller corner\n' })
  })
})

describe('standard input', () => {
  const piped = (...words: string[]) => answerTo(words, () => readFileSync('demo/studio-corner.json', 'utf8'))
  it('is a site where the file is -', async () => {
    expect(await piped('check', '-', '--json')).toEqual(await vestibule('check', 'demo/studio-corner.json', '--json'))
    expect((await piped('export', '-', '--format', 'csv')).out).toMatch(/^id,name/)
    expect(await answerTo(['check', '-'], () => 'no site')).toMatchObject({
      exit: 2,
      err: expect.stringMatching(/^vestibule: standard input: line 1, column \d+: the text is not whole JSON/),
    })
  })
})

describe('import', () => {
  const table = file('more.csv', 'id,name,pin\n,Attic lamp,D5\ndesk-lamp,Desk light,\n')
  it('says what a table changes and what it does not take, and writes only where it is told', async () => {
    const words = ['import', 'demo/studio-corner.json', '--channels', table]
    const { exit, out } = await vestibule(...words)
    expect(exit).toBe(0)
    expect(out.split('\n').slice(0, -1)).toEqual([
      'new      Attic lamp: switched on Corner',
      'changed  Desk light: name Desk lamp → Desk light',
      'not imported: pin (the table only shows them)',
      'nothing is written: name a file with --out',
    ])
    const to = join(folder, 'imported.json')
    expect((await vestibule(...words, '--out', to)).out).toContain(`written to ${to}`)
    expect((await vestibule('export', to, '--format', 'csv')).out).toContain('Attic lamp')
  })
  it('refuses a table with a wrong row whole, in one line', async () => {
    const wrong = file('wrong.csv', 'name,kind\nA,switched\nB,odd\n')
    expect(await vestibule('import', 'demo/studio-corner.json', '--channels', wrong)).toMatchObject({
      exit: 2,
      err: expect.stringMatching(/wrong\.csv: row 3, kind: “odd” is none of/),
    })
    expect(await vestibule('import', 'demo/studio-corner.json')).toMatchObject({ exit: 2 })
  })
})

describe('build and export', () => {
  it('takes away what an earlier build wrote and this one does not, and nothing else', async () => {
    const out = join(folder, 'again')
    const corner = join(out, 'corner')
    await vestibule('build', 'demo/studio-corner.json', '--out', out)
    writeFileSync(join(corner, 'firmware', 'secrets.h'), '// mine')
    const listed = JSON.parse(readFileSync(join(corner, '.vestibule-build.json'), 'utf8')) as string[]
    writeFileSync(join(corner, 'sheets', 'old.md'), 'of an older program')
    writeFileSync(
      join(corner, '.vestibule-build.json'),
      JSON.stringify([...listed, 'sheets/old.md', '../../wide.json']),
    )
    file('wide.json', 'not of a build')
    await vestibule('build', 'demo/studio-corner.json', '--out', out)
    expect(existsSync(join(corner, 'sheets', 'old.md'))).toBe(false)
    expect(existsSync(join(folder, 'wide.json'))).toBe(true)
    expect(readFileSync(join(corner, 'firmware', 'secrets.h'), 'utf8')).toBe('// mine')
  })
  it('builds each controller into a folder, and refuses a site with open errors', async () => {
    const { exit, out } = await vestibule('build', 'demo/fernhollow.json', '--out', join(folder, 'out'), '--json')
    expect(exit).toBe(0)
    expect((JSON.parse(out) as { builds: { controller: string }[] }).builds.map((b) => b.controller)).toEqual([
      'throwing',
      'glaze',
      'yard',
      'drying',
      'drying-radio',
      'window',
    ])
    expect(readFileSync(join(folder, 'out', 'throwing', 'sheets', 'service.md'), 'utf8')).toContain(
      '| vp1 | Bench lights |',
    )
    expect(await vestibule('build', 'demo/before-review.json', '--out', join(folder, 'no'))).toMatchObject({ exit: 1 })
  })
  it('exports the schema that is published, which takes the demo', async () => {
    const { out } = await vestibule('export', 'demo/fernhollow.json', '--format', 'schema')
    expect(out).toBe(readFileSync('docs/site-5.schema.json', 'utf8'))
    const validate = new Ajv2020({ strict: false }).compile(JSON.parse(out) as object)
    expect(validate(JSON.parse(readFileSync('demo/fernhollow.json', 'utf8')))).toBe(true)
  })
  it('exports the site byte for byte', async () =>
    expect((await vestibule('export', 'demo/fernhollow.json', '--format', 'site')).out).toBe(
      readFileSync('demo/fernhollow.json', 'utf8'),
    ))
  it.each([
    ['netlist', /^\(netlist\n {2}\(controller "throwing"\)/],
    ['parts', /^count,part,references,price each\r\n1,"Dual-core/],
    ['connections', /^device,from,to,colour,note,mains\r\nCaution,,,,"Mains can kill[^]*\r\nSupply,G1 −,U1 GND/],
    ['svg', /^<svg xmlns/],
    ['test-list', /^## Controller alone[^]*- \[ \] Press S3 twice/],
    ['image', /^\{\n {2}"format": "vestibule-image"/],
  ])('exports %s of one controller', async (format, shape) => {
    const { exit, out } = await vestibule(
      'export',
      'demo/fernhollow.json',
      '--format',
      format,
      '--controller',
      'throwing',
    )
    expect(exit).toBe(0)
    expect(out).toMatch(shape)
    expect(await vestibule('export', 'demo/fernhollow.json', '--format', format)).toMatchObject({
      exit: 2,
      err: expect.stringContaining('--controller is needed'),
    })
  })
  it('a version 1 file is brought up to this version, with nothing lost', async () => {
    const { exit, out } = await vestibule('export', 'demo/version-1.json', '--format', 'site')
    expect(exit).toBe(0)
    const site = JSON.parse(out) as {
      version: number
      channels: { name: string }[]
      ways: unknown[]
      groups: unknown[]
    }
    const before = JSON.parse(readFileSync('demo/version-1.json', 'utf8')) as {
      version: number
      channels: { name: string }[]
      ways: unknown[]
    }
    expect([before.version, site.version]).toEqual([1, 5])
    expect(site.channels.map((channel) => channel.name)).toEqual(before.channels.map((channel) => channel.name))
    expect(site.ways).toEqual(before.ways)
    expect(site.groups).toEqual([])
  })
  it.each([
    ['points-csv', /^service,controller,vp,name/],
    ['hub-yaml', /^vestibule-hub: 1/],
    ['hub-secrets', /^hub\/host: ""/],
    ['asyncapi', /^asyncapi: 3\.0\.0/],
    ['serial-table', /^link,kind,controller/],
    ['voice', /^name,room,channel/],
    ['infrared', /^remote,key,protocol/],
    ['quota', /^service,controller,what/],
    ['template:point-table', /^Points of Fernhollow Pottery/],
  ])('exports %s of the site', async (format, shape) => {
    const { exit, out } = await vestibule('export', 'demo/fernhollow.json', '--format', format)
    expect(exit).toBe(0)
    expect(out).toMatch(shape)
  })
  it('says help, and refuses what it does not know', async () => {
    expect((await vestibule('help')).out).toContain('vestibule check SITE.json')
    expect((await vestibule('--version')).out).toBe(
      `${(JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }).version}\n`,
    )
    for (const name of Object.keys(COMMANDS)) {
      const { exit, out } = await vestibule(name, '-h')
      expect([name, exit]).toEqual([name, 0])
      for (const option of COMMANDS[name]!.options) expect(out).toContain(`--${option}`)
    }
    expect(await vestibule('check', 'demo/studio-corner.json', 'more')).toMatchObject({
      exit: 2,
      err: 'vestibule: check: “more” is one word too many; see "vestibule check -h"\n',
    })
    expect(await vestibule('pins', 'demo/studio-corner.json', '--port', '1')).toMatchObject({
      exit: 2,
      err: 'vestibule: pins: --port is no option of it; see "vestibule pins -h"\n',
    })
    expect(await vestibule('dance')).toMatchObject({
      exit: 2,
      err: 'vestibule: there is no command "dance"; see "vestibule help"\n',
    })
    expect(await vestibule('check', 'x', '--wrong')).toMatchObject({ exit: 2 })
    expect(await vestibule('serve', '--host', '0.0.0.0')).toMatchObject({
      exit: 2,
      err: expect.stringContaining('set a passphrase'),
    })
  })
})

describe('ir', () => {
  const decode = (text: string, ...words: string[]): Promise<Said> => answerTo(['ir', 'decode', ...words], () => text)
  it('what is encoded is decoded', async () => {
    const { out } = await vestibule('ir', 'encode', '--protocol', 'nec', '--address', '4', '--command', '26')
    expect(JSON.parse((await decode(out, '--json')).out)).toEqual([
      { protocol: 'nec', address: 4, command: 26, toggle: null },
    ])
    const biphase = await vestibule(
      'ir',
      'encode',
      '--protocol',
      'rc5',
      '--address',
      '5',
      '--command',
      '0x23',
      '--toggle',
      '1',
    )
    expect(JSON.parse((await decode(biphase.out, '--json')).out)).toEqual([
      { protocol: 'rc5', address: 5, command: 35, toggle: 1 },
    ])
  })
  it('says what is wrong with a duration, and where', async () => {
    const why = async (input: string) => (await decode(input)).err
    expect(await why('[100, 10000001]')).toBe(
      'vestibule: standard input: duration 2 is 10000001 µs: longer than 10 s, the longest that is read\n',
    )
    expect(await why('[100, -1]')).toMatch(/duration 2 is -1 µs: each is 0 or more/)
    expect(await why('[100, "x"]')).toMatch(/duration 2 is not a number of µs/)
    expect(await why('{}')).toMatch(/is not a JSON array of µs/)
    expect(await why(`[${'1,'.repeat(200_000)}1]`)).toMatch(/holds 200001 durations, at most 200000 are read/)
  })
  it('with --lines a line that cannot be read leaves an error in its place, and the next is read', async () => {
    const { out, exit } = await decode('[100,200]\nnonsense\n[1,99999999]\n[100,200]\n', '--lines')
    expect(exit).toBe(0)
    expect(out.split('\n')).toEqual([
      '[]',
      '{"error":"line 2: is not a JSON array of µs"}',
      '{"error":"line 3: duration 2 is 99999999 µs: longer than 10 s, the longest that is read"}',
      '[]',
      '',
    ])
  })
  it('with --lines one array a line gives one result a line', async () => {
    const { out } = await vestibule('ir', 'encode', '--protocol', 'sirc12', '--address', '1', '--command', '21')
    const lines = (await decode(`${out.trim()}\n[100,200]\n`, '--json', '--lines')).out.trim().split('\n')
    expect(lines.map((line) => (JSON.parse(line) as { protocol: string }[]).map((frame) => frame.protocol))).toEqual([
      ['sirc12'],
      [],
    ])
  })
  it('a capture file in any format', async () => {
    const { out } = await vestibule('ir', 'decode', 'demo/captures/throwing-remote.vcd', '--json')
    expect((JSON.parse(out) as { protocol: string }[]).map((frame) => frame.protocol)).toEqual([
      'nec',
      'nec-repeat',
      'nec-repeat',
    ])
  })
  it.each([
    [['ir', 'encode', '--protocol', 'rc5', '--address', '40', '--command', '1'], 'address 40: rc5 has 0 to 31'],
    [['ir', 'encode', '--protocol', 'morse', '--address', '4', '--command', '1'], '--protocol morse: is none of'],
    [['ir', 'dance'], 'ir dance: is neither decode nor encode'],
  ])('%j is refused in one line', async (words, message) =>
    expect(await vestibule(...words)).toMatchObject({ exit: 2, err: expect.stringContaining(message) }),
  )
  it('what is no array is refused', async () =>
    expect(await decode('{"a":1}', '--json')).toMatchObject({
      exit: 2,
      err: 'vestibule: standard input: is not a JSON array of µs\n',
    }))
})

describe('trial', () => {
  const dark =
    'scenario: Dark\nsteps:\n  - { at: 5 s, do: { rock: S9 } }\n  - { after: 1 s, expect: { channel: Yard lights, is: on } }\n'
  const played = (text: string, ...more: string[]): Promise<Said> =>
    vestibule('trial', 'demo/fernhollow.json', '--scenario', file('dark.yaml', text), ...more)
  it('says that a scenario passes, and exits 0', async () =>
    expect(await played(dark)).toEqual({ exit: 0, out: '✓ Dark\n', err: '' }))
  it('says what broke first, and when, and exits 1', async () => {
    const wrong = dark.replace('is: on', 'is: off')
    expect(await played(wrong)).toEqual({ exit: 1, out: '✗ Dark: after 7 s: Yard lights is on\n', err: '' })
    expect(JSON.parse((await played(wrong, '--json')).out)).toEqual([
      { scenario: 'Dark', passed: false, t: 7_000, what: 'Yard lights is on' },
    ])
  })
  it('refuses what is no scenario by its line, and what the site does not have by its name', async () => {
    expect((await played(dark.replace('5 s', 'soon'))).err).toMatch(/dark\.yaml: line 3: steps, at: a time is a number/)
    expect((await played(dark.replace('S9', 'S99'))).err).toMatch(
      /dark\.yaml: line 3: there is no switch "S99" in this site/,
    )
  })
  it('prints the library of a site, each scenario of which it reads back', async () => {
    const { out } = await vestibule('trial', 'demo/studio-corner.json', '--print')
    const parts = out.split('---\n')
    expect(parts.length).toBeGreaterThan(5)
    // the pottery may lack what the library names; the scenario itself is read
    for (const part of parts) expect((await played(part)).err).not.toMatch(/line \d+: (?!there is no|no hub)/)
  })
})

describe('what is tried and measured in the house', () => {
  it('accept says what passed, exits 1 where something fails, and writes a sheet', async () => {
    const fine = await vestibule('accept', 'demo/studio-corner.json')
    expect(fine).toMatchObject({ exit: 0, err: '' })
    expect(fine.out).toMatch(/^\d+ passed, 0 failed, 0 skipped\n$/)
    const bad = await vestibule('accept', 'demo/before-review.json', '--json')
    expect(bad.exit).toBe(1)
    const { items } = JSON.parse(bad.out) as { items: { result: string; note: string }[] }
    expect(items.filter(({ result }) => result === 'failed').every(({ note }) => note !== '')).toBe(true)
    const sheet = await vestibule('accept', 'demo/studio-corner.json', '--format', 'markdown')
    expect(sheet.out).toMatch(/^# Acceptance run in the simulated house: Studio corner/)
    expect((await vestibule('accept', 'demo/studio-corner.json', '--format', 'pdf')).err).toMatch(/as markdown/)
  }, 60_000)
  it('trial writes the run that wave lays a capture over', async () => {
    const text =
      'scenario: Two\nsteps:\n  - { at: 5 s, do: { rock: S9 } }\n  - { after: 3 s, do: { rock: S9 } }\n  - { after: 2 s, do: { rock: S9 } }\n'
    const scenario = file('two.yaml', text)
    const [run, table] = [file('run.vcd', ''), file('run.csv', '')]
    const said = await vestibule('trial', 'demo/fernhollow.json', '--scenario', scenario, '--vcd', run, '--csv', table)
    expect(said.exit).toBe(0)
    expect(readFileSync(table, 'utf8')).toMatch(/^ms,lane,value,from,deed\r\n/)
    const capture = file(
      'board.vcd',
      '$timescale 1 ms $end\n$var wire 1 ! D5 $end\n$enddefinitions $end\n#0\n0!\n#1000\n1!\n#4001\n0!\n#6000\n1!\n#9000\n',
    )
    const lay = (...more: string[]): Promise<Said> =>
      vestibule('wave', 'lay', capture, '--run', run, '--lane', 'contact_yard_lights_1', ...more)
    const found = await lay('--signal', 'D5', '--json')
    expect(found.exit).toBe(0)
    // S9 settles for 25 ms, and the capture began 4.025 s later
    expect(JSON.parse(found.out)).toMatchObject({ shiftMs: 4_025, matched: 3, onlyRun: [], onlyCapture: [] })
    expect((await lay('--signal', 'D9')).err).toMatch(/has no one-bit variable "D9"; it has D5/)
    expect((await lay()).err).toMatch(/--signal is needed/)
    expect((await vestibule('trial', 'demo/fernhollow.json', '--vcd', run)).err).toMatch(/name it with --scenario/)
  })
  it('measure and faults give figures, as text and as JSON', async () => {
    const measured = await vestibule('measure', 'demo/studio-corner.json', '--samples', '5', '--json')
    const { latencies, channels } = JSON.parse(measured.out) as { latencies: unknown[]; channels: unknown[] }
    expect([latencies.length > 3, channels.length]).toEqual([true, 2])
    expect((await vestibule('measure', 'demo/studio-corner.json', '--samples', 'many')).err).toMatch(/is not a whole/)
    const dark = await vestibule('faults', 'demo/fernhollow.json', '--from', 'away', '--question', 'on')
    expect(dark.out).toMatch(/Bench lights: \d+\.\d h per year, \d+\.\d\d times; \d+ failures alone/)
    expect(dark.out).toMatch(/Rack lights: at all times/)
    const sticks = await vestibule('faults', 'demo/fernhollow.json', '--question', 'limit')
    expect(sticks.out).toMatch(/Sink heater: .* \(first Contact, Sink heater \(stuck\)/)
    expect(sticks.out).toMatch(/not asked of Bench lights: it has no limit/)
    const { answers, rates } = JSON.parse((await vestibule('faults', 'demo/fernhollow.json', '--json')).out) as {
      answers: { question: string; hours: number | null }[]
      rates: Record<string, { source: string }>
    }
    expect(new Set(answers.map(({ question }) => question)).size).toBe(5)
    expect(rates['router']!.source).toBe('common practice')
    expect((await vestibule('faults', 'demo/fernhollow.json', '--question', 'why')).err).toMatch(/is not on, off/)
    expect((await vestibule('faults', 'demo/fernhollow.json', '--from', 'there')).err).toMatch(/is not here, house/)
  }, 60_000)
})
