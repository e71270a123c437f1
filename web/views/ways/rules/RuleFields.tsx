import {
  sensorOf,
  sensorsOn,
  topLevel,
  type Channel,
  type Rule,
  type ScheduleRule,
  type ThresholdRule,
} from '../../../../core/site'
import { clockText } from '../../../../core/ways'
import { ChoiceField, NumberField, TextField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

const DAYS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'] as const

export function RuleFields({ rule, channel }: { rule: Rule; channel: Channel }) {
  return rule.kind === 'threshold' ? (
    <ThresholdFields rule={rule} channel={channel} />
  ) : (
    <ScheduleFields rule={rule} channel={channel} />
  )
}

const number = (text: string): string | null => (/^-?\d+(\.\d{1,3})?$/.test(text.trim()) ? null : 'a number')

function ThresholdFields({ rule, channel }: { rule: ThresholdRule; channel: Channel }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const unit = sensorOf(site, rule.sensor)?.unit ?? ''
  const change = (label: string, mutate: (target: ThresholdRule) => void) =>
    dispatch(
      edit(`${rule.name}: ${label}`, (draft) => {
        const target = draft.rules.find((r) => r.id === rule.id)
        if (target?.kind === 'threshold') mutate(target)
      }),
    )
  const above = rule.direction === 'above'
  const beyond = (text: string, on: number, off: number): string | null =>
    number(text) ?? ((above ? on > off : on < off) ? null : above ? 'on must lie above off' : 'on must lie below off')
  return (
    <div className="grid grid-cols-2 gap-2">
      <ChoiceField
        label="Sensor"
        value={rule.sensor as string}
        choices={sensorsOn(site, channel.controller).map((sensor) => [sensor.id as string, sensor.name] as const)}
        onKeep={(id) =>
          change('sensor', (r) => {
            r.sensor = id as ThresholdRule['sensor']
          })
        }
      />
      <ChoiceField
        label="Switches on"
        value={rule.direction}
        choices={[
          ['above', 'when it rises'],
          ['below', 'when it falls'],
        ]}
        onKeep={(direction) =>
          change('direction', (r) => {
            if (r.direction !== direction) [r.on, r.off] = [r.off, r.on]
            r.direction = direction
          })
        }
      />
      <TextField
        mono
        label={`On at ${above ? '≥' : '≤'}`}
        unit={unit}
        value={String(rule.on)}
        check={(text) => beyond(text, Number(text), rule.off)}
        onKeep={(text) =>
          change('on-value', (r) => {
            r.on = Number(text)
          })
        }
      />
      <TextField
        mono
        label={`Off at ${above ? '≤' : '≥'}`}
        unit={unit}
        value={String(rule.off)}
        check={(text) => beyond(text, rule.on, Number(text))}
        onKeep={(text) =>
          change('off-value', (r) => {
            r.off = Number(text)
          })
        }
      />
      <NumberField
        label="Stays at least"
        unit="s"
        value={Math.round(rule.dwellMs / 1000)}
        least={0}
        most={86_400}
        onKeep={(seconds) =>
          change('dwell time', (r) => {
            r.dwellMs = seconds * 1000
          })
        }
      />
      <ChoiceField
        label="No fresh reading"
        value={rule.whenStale}
        choices={[
          ['off', 'goes off'],
          ['keep', 'stays as it is'],
        ]}
        onKeep={(whenStale) =>
          change('when stale', (r) => {
            r.whenStale = whenStale
          })
        }
      />
      {channel.kind === 'stepped' && (
        <ChoiceField
          label="Level"
          value={String(rule.level ?? '')}
          choices={[
            ['', 'its last'],
            ...Array.from({ length: topLevel(channel) }, (_, i) => [String(i + 1), String(i + 1)] as const),
          ]}
          onKeep={(level) =>
            change('level', (r) => {
              r.level = level === '' ? null : Number(level)
            })
          }
        />
      )}
    </div>
  )
}

function ScheduleFields({ rule, channel }: { rule: ScheduleRule; channel: Channel }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (target: ScheduleRule) => void) =>
    dispatch(
      edit(`${rule.name}: ${label}`, (draft) => {
        const target = draft.rules.find((r) => r.id === rule.id)
        if (target?.kind === 'schedule') mutate(target)
      }),
    )
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <TextField
          mono
          label="At"
          unit="local time"
          value={clockText(rule.minute)}
          check={(text) => (/^([01]?\d|2[0-3]):[0-5]\d$/.test(text.trim()) ? null : 'hours and minutes, such as 06:30')}
          onKeep={(text) =>
            change('time', (r) => {
              const [hours, minutes] = text.split(':').map(Number)
              r.minute = hours! * 60 + minutes!
            })
          }
        />
        <ChoiceField
          label="Does"
          value={rule.action}
          choices={[
            ['on', 'on'],
            ['off', 'off'],
            ...(channel.kind === 'stepped' ? ([['level', 'set a level']] as const) : []),
          ]}
          onKeep={(action) =>
            change('action', (r) => {
              r.action = action
              r.level = action === 'level' ? (r.level ?? 1) : null
            })
          }
        />
        {rule.action === 'level' && (
          <NumberField
            label="Level"
            value={rule.level ?? 1}
            least={0}
            most={topLevel(channel)}
            onKeep={(level) =>
              change('level', (r) => {
                r.level = level
              })
            }
          />
        )}
      </div>
      <div role="group" aria-label="Days" className="flex gap-1">
        {DAYS.map((name, day) => (
          <button
            key={name}
            type="button"
            aria-pressed={rule.days.includes(day)}
            className="press min-w-8 px-1 text-note aria-pressed:bg-ink aria-pressed:text-wall"
            onClick={() =>
              change('days', (r) => {
                const next = r.days.includes(day) ? r.days.filter((one) => one !== day) : [...r.days, day].sort()
                if (next.length) r.days = next
              })
            }
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  )
}
