import type { Controller, Site } from '../site'

/** `secrets.example.h`: which secrets this controller needs, with nothing in them. The real file never leaves the maker's hands. */
export function secretsExample(site: Site, controller: Controller): string {
  const usesBroker = controller.link === 'wifi'
  const lines = usesBroker
    ? [
        '#define VESTIBULE_WIFI_NAME ""',
        '#define VESTIBULE_WIFI_PASSWORD ""',
        '#define VESTIBULE_BROKER_ADDRESS ""  // host name or address only: no scheme, no path, no trailing slash',
        '#define VESTIBULE_BROKER_PORT 1883',
        `#define VESTIBULE_BROKER_USER "${site.id}.${controller.id}"`,
        '#define VESTIBULE_BROKER_PASSWORD ""',
      ]
    : ['// This controller has no link: it needs no secrets.']
  return `// Copy to secrets.h, fill in, and keep it out of whatever you share.\n#ifndef VESTIBULE_SECRETS_H\n#define VESTIBULE_SECRETS_H\n\n${lines.join('\n')}\n\n#endif\n`
}
