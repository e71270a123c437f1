/**
 * The macro under which secrets.h holds a secret: "wifi/password" is VESTIBULE_WIFI_PASSWORD, "app/board-key/throwing"
 * VESTIBULE_APP_BOARD_KEY, since a file is one board's.
 */
export const macroFor = (key: string): string =>
  `VESTIBULE_${key
    .split('/')
    .slice(0, 2)
    .join('_')
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '_')}`
