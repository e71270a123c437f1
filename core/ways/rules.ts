import {
  freshId,
  sensorOf,
  sensorsOn,
  type Channel,
  type Rule,
  type RuleId,
  type Site,
  type ThresholdRule,
  timeText,
} from '../site'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const

export const clockText = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`

export function dayText(days: readonly number[]): string {
  if (days.length === 7) return 'daily'
  const sorted = [...days].sort((a, b) => a - b)
  if (sorted.join() === '0,1,2,3,4') return 'Mon–Fri'
  if (sorted.join() === '5,6') return 'Sat, Sun'
  return sorted.map((day) => DAYS[day]).join(', ')
}

/** A rule as it stands in its cell: what it watches, and when it lets go. */
export function ruleWords(site: Site, rule: Rule): { title: string; detail: string } {
  if (rule.kind === 'schedule')
    return {
      title: `${clockText(rule.minute)} ${rule.action === 'level' ? `level ${rule.level ?? 0}` : rule.action}`,
      detail: `schedule, ${dayText(rule.days)}`,
    }
  const sensor = sensorOf(site, rule.sensor)
  const unit = sensor?.unit ? ` ${sensor.unit}` : ''
  const sign = rule.direction === 'above' ? '≥' : '≤'
  const back = rule.direction === 'above' ? '≤' : '≥'
  return {
    title: `${sensor?.name ?? rule.sensor} ${sign} ${rule.on}${unit}`,
    detail:
      `off at ${back} ${rule.off}${unit}${rule.dwellMs ? `, at least ${timeText(rule.dwellMs)}` : ''}, ` +
      `without a reading: ${rule.whenStale}`,
  }
}

/** On- and off-values that suit what is measured (common practice); a maker changes them. */
const USUAL: Record<
  'temperature' | 'humidity' | 'light' | 'other',
  Pick<ThresholdRule, 'direction' | 'on' | 'off' | 'dwellMs'>
> = {
  temperature: { direction: 'above', on: 28, off: 26, dwellMs: 60_000 },
  humidity: { direction: 'above', on: 70, off: 62, dwellMs: 120_000 },
  light: { direction: 'below', on: 30, off: 60, dwellMs: 300_000 },
  other: { direction: 'above', on: 60, off: 40, dwellMs: 60_000 },
}

/**
 * A rule for a channel: a threshold on a sensor of its controller, or a schedule where it has none. Changes a draft.
 */
export function addRule(site: Site, channel: Channel, kind?: Rule['kind']): Rule {
  const sensor = sensorsOn(site, channel.controller)[0]
  const id = freshId(site.rules, `${channel.id}-rule`, 'rule') as RuleId
  const rule: Rule =
    sensor && kind !== 'schedule'
      ? {
          kind: 'threshold',
          id,
          name: `${channel.name} by ${sensor.name}`.slice(0, 60),
          channel: channel.id,
          sensor: sensor.id,
          ...USUAL[sensor.quantity],
          whenStale: 'off',
          level: null,
        }
      : {
          kind: 'schedule',
          id,
          name: `${channel.name} in the morning`.slice(0, 60),
          channel: channel.id,
          days: [0, 1, 2, 3, 4, 5, 6],
          minute: 390,
          action: 'on',
          level: null,
        }
  site.rules.push(rule)
  return rule
}

export function removeRule(site: Site, id: string): void {
  site.rules = site.rules.filter((rule) => rule.id !== id)
}
