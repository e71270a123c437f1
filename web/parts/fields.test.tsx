// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { toast } from 'sonner'
import { TextField } from './fields'

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn() }) }))
afterEach(() => {
  cleanup()
  vi.clearAllMocks()
})

const needs = (text: string) => (text ? null : 'enter a name')
const field = (value: string, onKeep: (text: string) => unknown) => (
  <TextField label="Name" value={value} check={needs} onKeep={onKeep} />
)
const typed = () => screen.getByRole<HTMLInputElement>('textbox').value

describe('a field in the hand', () => {
  it('keeps what is typed when another tab changes it, says so, and lets the person choose', async () => {
    const user = userEvent.setup()
    const keep = vi.fn()
    const { rerender } = render(field('Lamp', keep))
    await user.type(screen.getByRole('textbox'), ' by the door')
    rerender(field('Theirs', keep))
    expect(typed()).toBe('Lamp by the door')
    expect(screen.getByRole('alert').textContent).toBe(
      'changed meanwhile to “Theirs”: Enter saves yours, Escape discards it',
    )
    await user.keyboard('{Escape}')
    expect([typed(), screen.queryByRole('alert')]).toEqual(['Theirs', null])
    await user.type(screen.getByRole('textbox'), ' and ours{Enter}')
    expect(keep).toHaveBeenCalledExactlyOnceWith('Theirs and ours')
  })
  it('that goes away keeps what is in it', async () => {
    const keep = vi.fn()
    const { unmount } = render(field('Lamp', keep))
    await userEvent.type(screen.getByRole('textbox'), ' two')
    unmount()
    expect(keep).toHaveBeenCalledExactlyOnceWith('Lamp two')
  })
  it('whose thing another tab has taken out says what was typed', async () => {
    const { unmount } = render(field('Lamp', () => false))
    await userEvent.type(screen.getByRole('textbox'), ' two')
    unmount()
    expect(toast.error).toHaveBeenCalledExactlyOnceWith(
      'Name: not saved, what it belonged to was deleted. You typed “Lamp two”.',
      expect.objectContaining({ duration: Infinity }),
    )
  })
  it('with an error in it goes away with a word, and without one where nothing was typed', async () => {
    const keep = vi.fn()
    const first = render(field('L', keep))
    await userEvent.type(screen.getByRole('textbox'), '{Backspace}')
    first.unmount()
    expect(toast.error).toHaveBeenCalledExactlyOnceWith(
      'Name: not saved, enter a name. You typed “”.',
      expect.anything(),
    )
    render(field('Lamp', keep)).unmount()
    expect(keep).not.toHaveBeenCalled()
  })
})
