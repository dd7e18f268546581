// Writes the fonts the core sets text in as modules: node scripts/fonts.mjs
// The files come from the installed @fontsource packages (SIL Open Font License 1.1).
import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const find = createRequire(import.meta.url).resolve
const FONTS = {
  sans: '@fontsource/alegreya-sans/files/alegreya-sans-latin-400-normal.woff',
  bold: '@fontsource/alegreya-sans/files/alegreya-sans-latin-700-normal.woff',
  mono: '@fontsource/dm-mono/files/dm-mono-latin-400-normal.woff',
}
for (const [name, file] of Object.entries(FONTS)) {
  const text = readFileSync(find(file)).toString('base64')
  writeFileSync(
    `core/src/letters/fonts/${name}.ts`,
    `/** ${file}, by scripts/fonts.mjs. */\nexport const ${name} =\n  '${text}'\n`,
  )
}
