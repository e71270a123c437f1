import { Command } from 'cmdk'
import { useNavigate } from 'react-router'
import { keyOf, type Site } from '../../core/site'
import { columnOf, ruleWords, type Column } from '../../core/ways'
import { codeName } from '../../core/infrared'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'
import { STEPS } from './steps'

interface Place {
  readonly key: string
  readonly name: string
  readonly detail: string
  readonly step: string
  readonly controller?: string
  readonly cell?: { channel: string; column: Column }
  readonly role?: string
}

function placesOf(site: Site): Place[] {
  const nameOf = (controller: string) => site.controllers.find((candidate) => candidate.id === controller)?.name ?? ''
  return [
    ...STEPS.map((step) => ({ key: `step:${step.id}`, name: step.name, detail: 'step', step: step.id })),
    ...site.controllers.map((c) => ({
      key: `controller:${c.id}`,
      name: c.name,
      detail: 'controller',
      step: 'bench',
      controller: c.id,
    })),
    ...site.channels.map((c) => ({
      key: `channel:${c.id}`,
      name: c.name,
      detail: `channel of ${nameOf(c.controller)}`,
      step: 'ways',
      cell: { channel: c.id, column: 'wall' as const },
    })),
    ...site.inputs.map((i) => ({
      key: `input:${i.id}`,
      name: i.name,
      detail: `${i.kind} switch of ${nameOf(i.controller)}`,
      step: 'bench',
      controller: i.controller,
      role: `in:${i.id}`,
    })),
    ...site.ways.flatMap((way): Place[] => {
      const channel = site.channels.find((candidate) => candidate.id === way.channel)!
      if (way.kind === 'app') {
        const point = site.services.find((s) => s.id === way.service)?.points.find((p) => p.id === way.point)
        return point
          ? [
              {
                key: `way:${way.id}`,
                name: `vp${point.vp}`,
                detail: `${channel.name} by app`,
                step: 'ways',
                cell: { channel: channel.id, column: 'app' },
              },
            ]
          : []
      }
      if (way.kind === 'hub') {
        const entity = site.hubs.find((h) => h.id === way.hub)?.entities.find((e) => e.id === way.entity)
        return entity
          ? [
              {
                key: `way:${way.id}`,
                name: entity.topic,
                detail: `${channel.name} by hub`,
                step: 'ways',
                cell: { channel: channel.id, column: 'hub' },
              },
            ]
          : []
      }
      if (way.kind === 'voice')
        return [
          {
            key: `way:${way.id}`,
            name: `“${way.name}”`,
            detail: `${channel.name} by voice`,
            step: 'ways',
            cell: { channel: channel.id, column: 'voice' },
          },
        ]
      if (way.kind === 'link')
        return [
          {
            key: `way:${way.id}`,
            name: way.char,
            detail: `${channel.name} ${way.action}, ${columnOf(site, way)}`,
            step: 'ways',
            cell: { channel: channel.id, column: columnOf(site, way) },
          },
        ]
      if (way.kind === 'remote') {
        const key = keyOf(site, way.remote, way.key)
        return key
          ? [
              {
                key: `way:${way.id}`,
                name: codeName(key.code),
                detail: `“${key.name}”, ${channel.name} ${way.action}`,
                step: 'ways',
                cell: { channel: channel.id, column: 'remote' },
              },
            ]
          : []
      }
      return []
    }),
    ...site.rules.map((rule): Place => ({
      key: `rule:${rule.id}`,
      name: ruleWords(site, rule).title,
      detail: `rule of ${site.channels.find((c) => c.id === rule.channel)?.name ?? ''}`,
      step: 'ways',
      cell: { channel: rule.channel, column: 'rule' },
    })),
    ...site.groups.map((group): Place => ({
      key: `group:${group.id}`,
      name: group.name,
      detail: 'group',
      step: 'ways?side=rules',
    })),
    ...site.sensors.map((sensor): Place => ({
      key: `sensor:${sensor.id}`,
      name: sensor.name,
      detail: `${sensor.quantity} sensor of ${nameOf(sensor.controller)}`,
      step: 'ways?side=rules',
    })),
    ...site.services.map((service): Place => ({
      key: `service:${service.id}`,
      name: service.name,
      detail: 'service',
      step: 'ways?side=services',
    })),
    ...site.templates.map((template): Place => ({
      key: `template:${template.id}`,
      name: template.name,
      detail: 'template',
      step: 'ways?side=templates',
    })),
  ]
}

export default function Finder({ onClose }: { onClose: () => void }) {
  const site = useAppSelector((state) => state.site.site)
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  if (!site) return null
  const go = (place: Place) => {
    if (place.controller) dispatch(screenActions.controllerPicked(place.controller))
    if (place.cell) {
      dispatch(screenActions.controllerPicked(null))
      dispatch(screenActions.cellPicked(place.cell))
    }
    if (place.role) dispatch(screenActions.rolePicked(place.role))
    void navigate(`/${site.id}/${place.step}`)
    onClose()
  }
  return (
    <Command.Dialog
      open
      onOpenChange={onClose}
      label="Find anything"
      overlayClassName="fixed inset-0 z-40 bg-ink/30"
      contentClassName="fixed top-24 left-1/2 z-50 w-[34rem] -translate-x-1/2 border-2 border-ink bg-panel"
    >
      <Command.Input
        autoFocus
        placeholder="channel, switch, vp, topic, step …"
        className="w-full border-b border-hair bg-transparent px-4 py-3 text-head outline-none"
      />
      <Command.List className="max-h-80 overflow-auto p-2">
        <Command.Empty className="p-3 text-soft">Nothing of that name on this site.</Command.Empty>
        {placesOf(site).map((place) => (
          <Command.Item
            key={place.key}
            value={`${place.name} ${place.detail} ${place.key}`}
            onSelect={() => go(place)}
            className="flex cursor-pointer items-baseline gap-3 px-2 py-1.5 data-[selected=true]:bg-ink data-[selected=true]:text-wall"
          >
            <span className="font-semibold">{place.name}</span>
            <span className="text-note opacity-80">{place.detail}</span>
          </Command.Item>
        ))}
      </Command.List>
    </Command.Dialog>
  )
}
