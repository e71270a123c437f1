/** A credential's key as it is stored: "app/board-key/throwing" belongs to "app". */
export const addressOf = (key: string): { owner: string; name: string } => {
  const at = key.indexOf('/')
  return { owner: key.slice(0, at), name: key.slice(at + 1) }
}
