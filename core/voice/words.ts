/** How a spoken name is heard: small letters, no signs, no articles, and one spelling for words that sound alike. */

/** Words that a listener cannot tell from a number (common practice). */
const HOMOPHONES: Readonly<Record<string, string>> = {
  to: 'two',
  too: 'two',
  for: 'four',
  fore: 'four',
  won: 'one',
  ate: 'eight',
  tree: 'three',
  nein: 'nine',
  tin: 'ten',
  '0': 'zero',
  '1': 'one',
  '2': 'two',
  '3': 'three',
  '4': 'four',
  '5': 'five',
  '6': 'six',
  '7': 'seven',
  '8': 'eight',
  '9': 'nine',
  '10': 'ten',
  '11': 'eleven',
  '12': 'twelve',
}

const ARTICLES = new Set(['the', 'a', 'an', 'my', 'our', 'this', 'that'])

/** Small letters and digits, without accents; underscores, hyphens and dots part words. */
export function wordsOf(text: string): string[] {
  return text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/['’]/g, '')
    .replace(/%/g, ' percent ')
    .replace(/([a-z])(\d)/g, '$1 $2')
    .replace(/(\d)([a-z])/g, '$1 $2')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim()
    .split(' ')
    .filter((word) => word !== '')
}

export const withoutArticles = (words: readonly string[]): string[] => {
  const kept = words.filter((word) => !ARTICLES.has(word))
  return kept.length ? kept : [...words]
}

/** A plural is heard as its singular: "light" and "lights" cannot be kept apart. */
const singular = (word: string): string =>
  word.length > 3 && word.endsWith('s') && !word.endsWith('ss') ? word.slice(0, -1) : word

/** The words as a listener would write them down. */
export const heardAs = (text: string): string[] =>
  withoutArticles(wordsOf(text)).map((word) => singular(HOMOPHONES[word] ?? word))

/** A number that is said, or undefined. */
export function numberSaid(word: string): number | undefined {
  if (/^\d{1,3}$/.test(word)) return Number(word)
  const names = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']
  const at = names.indexOf(HOMOPHONES[word] ?? word)
  return at >= 0
    ? at
    : {
        half: 50,
        full: 100,
        maximum: 100,
        minimum: 1,
        twenty: 20,
        thirty: 30,
        forty: 40,
        fifty: 50,
        sixty: 60,
        seventy: 70,
        eighty: 80,
        ninety: 90,
        hundred: 100,
      }[word]
}
