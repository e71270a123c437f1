/** Is a person typing there? Then a letter is a letter and no command: in a field, a list, or an editor. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (['INPUT', 'SELECT', 'TEXTAREA'].includes(target.tagName) || target.closest('[contenteditable="true"]') !== null)
