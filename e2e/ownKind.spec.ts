import { readFile } from 'node:fs/promises'
import { expect, test } from './server'

// A kind of service that nobody here knows, from its description alone: added, its wire corrected with the preview
// beside it, tried against the stand-in, exported, and imported into another site.
test('an own kind of service is described, previewed, tried and exported', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/ways?side=services`)
  await page.getByText('Own kind of service').click()
  await page.getByLabel('Name of kind').fill('letterbox')
  await page.getByRole('button', { name: 'Add kind' }).click()
  await page.getByRole('button', { name: /^Letterbox/ }).click()
  await expect(page.getByText('No preview: no point yet')).toBeVisible()

  // a point of it, as the crossbar would add one
  await page.evaluate(async () => {
    const at = '/api/sites/studio-corner'
    const { site, revision } = (await (await fetch(at)).json()) as {
      site: { channels: { id: string; controller: string }[]; services: { id: string }[] }
      revision: number
    }
    const channel = site.channels[0]!
    const point = {
      ...{ id: 'news', controller: channel.controller, vp: 1, name: 'News lamp', carries: { kind: 'channel' } },
      ...{ type: 'integer', min: 0, max: 1, step: 1, default: 0, unit: '', access: 'read-write' },
      update: { policy: 'change' },
    }
    const way = { kind: 'app', id: 'news-way', channel: channel.id, service: 'letterbox', point: 'news' }
    const index = site.services.findIndex(({ id }) => id === 'letterbox')
    await fetch(at, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json', 'If-Match': `"${revision}"` },
      body: JSON.stringify({
        label: 'a point',
        patch: [
          { op: 'add', path: `/services/${index}/points/-`, value: point },
          { op: 'add', path: '/ways/-', value: { ...way, feedback: 'reports' } },
        ],
      }),
    })
    await fetch(`${at}/credentials`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ key: `letterbox/access-key/${channel.controller}`, value: 'letter-key-0123456789' }),
    })
  })
  const preview = page.getByRole('table', { name: 'Wire preview' })
  await expect(preview).toContainText('corner/news/is 1')

  await page.getByText('Edit wire and credentials').click()
  const topic = page.getByRole('textbox', { name: 'Report topic' })
  await topic.fill('box/')
  // a press puts a fact where the cursor is
  await page.getByRole('button', { name: '{number}' }).click()
  await expect(topic).toHaveValue('box/{number}')
  await topic.press('Enter')
  await expect(preview).toContainText('box/1 1')

  // a text with a place that nobody knows is said at once
  await topic.fill('box/{nobody}')
  await topic.press('Enter')
  await expect(page.getByText(/\{nobody\}, which is not known/).first()).toBeVisible()
  await topic.fill('box/{number}')
  await topic.press('Enter')

  await page.getByRole('button', { name: 'Run dry run' }).click()
  await expect(page.getByRole('list', { name: 'Dry run' })).toContainText('● passed')

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export kind (JSON)' }).click(),
  ])
  const file = await download.path()
  expect(JSON.parse(await readFile(file, 'utf8'))).toMatchObject({
    'vestibule-service-kind': 1,
    kind: { id: 'letterbox' },
  })
  await page.goto(`${served.url}/fernhollow/ways?side=services`)
  await page.getByText('Own kind of service').click()
  await page.getByLabel('Kind file').setInputFiles(file)
  await expect(page.getByLabel('Add service or hub').getByRole('option', { name: 'letterbox' })).toBeAttached()
})
