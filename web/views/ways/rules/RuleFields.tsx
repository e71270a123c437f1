import { kindOf, sensorOf, sensorsOn, topLevel } from '../../../../core/site'
import type { Channel, Rule, ScheduleRule, Sensor, ThresholdRule } from '../../../../core/site'
import { clockText } from '../../../../core/ways'
import { Fields, fieldsOf, type FieldRow } from '../../../parts/form'
import { useAppSelector } from '../../../store/store'
import { useChange, withId, type Change } from '../../../store/useChange'

const DAYS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'] as const

export function RuleFields({ rule, channel }: { rule: Rule; channel: Channel }) {
  return rule.kind === 'threshold' ? (
    <ThresholdFields rule={rule} channel={channel} />
  ) : (
    <ScheduleFields rule={rule} channel={channel} />
  )
}

const number = (text: string): string | null => (/^-?\d+(\.\d{1,3})?$/.test(text.trim()) ? null : 'a number')
const hasLevels = (channel: Channel): boolean => kindOf(channel).report === 'level'

/** The off-value lies beyond the on-value, on the quiet side. */
function beyond(text: string, on: number, off: number, { direction }: ThresholdRule): string | null {
  const trouble = number(text)
  if (trouble) return trouble
  if (direction === 'above') return on > off ? null : '“on” must be above “off”'
  return on < off ? null : '“on” must be below “off”'
}

const rising = (rule: ThresholdRule): string => (rule.direction === 'above' ? '≥' : '≤')
const falling = (rule: ThresholdRule): string => (rule.direction === 'above' ? '≤' : '≥')

const threshold = fieldsOf<ThresholdRule>()
const valueField = (key: 'on' | 'off', unit: string): FieldRow<ThresholdRule> =>
  threshold.text(
    (rule) => (key === 'on' ? `On at ${rising(rule)}` : `Off at ${falling(rule)}`),
    {
      read: (rule) => String(rule[key]),
      write: (rule, text) => {
        rule[key] = Number(text)
      },
    },
    {
      what: `${key}-value`,
      mono: true,
      unit,
      check: (text, rule) =>
        key === 'on' ? beyond(text, Number(text), rule.off, rule) : beyond(text, rule.on, Number(text), rule),
    },
  )

const levelChoices = (channel: Channel) => [
  ['', 'its last'] as const,
  ...Array.from({ length: topLevel(channel) }, (_, i) => [String(i + 1), String(i + 1)] as const),
]

const thresholdFields = (channel: Channel, sensors: readonly Sensor[], unit: string) => [
  threshold.choice(
    'Sensor',
    {
      read: (rule) => rule.sensor as string,
      write: (rule, id) => {
        rule.sensor = id as ThresholdRule['sensor']
      },
    },
    sensors.map((sensor) => [sensor.id as string, sensor.name] as const),
  ),
  threshold.choice(
    'Switches on',
    {
      read: (rule) => rule.direction,
      write: (rule, direction) => {
        if (rule.direction !== direction) [rule.on, rule.off] = [rule.off, rule.on]
        rule.direction = direction
      },
    },
    [
      ['above', 'when it rises'],
      ['below', 'when it falls'],
    ],
    { what: 'direction' },
  ),
  valueField('on', unit),
  valueField('off', unit),
  threshold.number(
    'Minimum time in a state',
    {
      read: (rule) => Math.round(rule.dwellMs / 1000),
      write: (rule, seconds) => {
        rule.dwellMs = seconds * 1000
      },
    },
    { what: 'dwell time', unit: 's', least: 0, most: 86_400 },
  ),
  threshold.choice(
    'Without a recent reading',
    'whenStale',
    [
      ['off', 'turns off'],
      ['keep', 'stays as it is'],
    ],
    { what: 'when stale' },
  ),
  threshold.choice(
    'Level',
    {
      read: (rule) => String(rule.level ?? ''),
      write: (rule, level) => {
        rule.level = level === '' ? null : Number(level)
      },
    },
    levelChoices(channel),
    { when: () => hasLevels(channel) },
  ),
]

function ThresholdFields({ rule, channel }: { rule: ThresholdRule; channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const unit = sensorOf(site, rule.sensor)?.unit ?? ''
  const change = useRuleChange(rule)
  return (
    <div className="grid grid-cols-2 gap-2">
      <Fields rows={thresholdFields(channel, sensorsOn(site, channel.controller), unit)} of={rule} change={change} />
    </div>
  )
}

const useRuleChange = <R extends Rule>(rule: R): Change<R> =>
  useChange(rule.name, (draft) => {
    const target = withId(draft.rules, rule.id)
    return target?.kind === rule.kind ? (target as R) : undefined
  })

const schedule = fieldsOf<ScheduleRule>()
const scheduleFields = (channel: Channel) => [
  schedule.text(
    'At',
    {
      read: (rule) => clockText(rule.minute),
      write: (rule, text) => {
        const [hours, minutes] = text.split(':').map(Number)
        rule.minute = hours! * 60 + minutes!
      },
    },
    {
      what: 'time',
      mono: true,
      unit: 'local time',
      check: (text) => (/^([01]?\d|2[0-3]):[0-5]\d$/.test(text.trim()) ? null : 'hours and minutes, such as 06:30'),
    },
  ),
  schedule.choice(
    'Action',
    {
      read: (rule) => rule.action,
      write: (rule, action) => {
        rule.action = action
        rule.level = action === 'level' ? (rule.level ?? 1) : null
      },
    },
    [['on', 'on'], ['off', 'off'], ...(hasLevels(channel) ? ([['level', 'set a level']] as const) : [])],
    { what: 'action' },
  ),
  schedule.number(
    'Level',
    {
      read: (rule) => rule.level ?? 1,
      write: (rule, level) => {
        rule.level = level
      },
    },
    { least: 0, most: topLevel(channel), when: (rule) => rule.action === 'level' },
  ),
]

function ScheduleFields({ rule, channel }: { rule: ScheduleRule; channel: Channel }) {
  const change = useRuleChange(rule)
  /** at least one day stays */
  const turnDay = (day: number) =>
    change('days', (target) => {
      const others = target.days.filter((one) => one !== day)
      const next = target.days.includes(day) ? others : [...others, day].sort()
      if (next.length) target.days = next
    })
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <Fields rows={scheduleFields(channel)} of={rule} change={change} />
      </div>
      <div role="group" aria-label="Days" className="flex gap-1">
        {DAYS.map((name, day) => (
          <button
            key={name}
            type="button"
            aria-pressed={rule.days.includes(day)}
            className="press min-w-8 px-1 text-note aria-pressed:bg-ink aria-pressed:text-wall"
            onClick={() => turnDay(day)}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  )
}
