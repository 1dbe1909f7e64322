import { formulaFileSchema } from '@clear-tally/contract';
import { readFileSync, writeFileSync } from 'node:fs';
import { checksTable, entriesTable, withTable } from './tables.js';

/** Writes what documents take from the descriptions of entries and checks. */
function write(file: string, name: string, table: string): void {
  writeFileSync(file, withTable(readFileSync(file, 'utf8'), name, table));
}
write('docs/entries.md', 'entries', entriesTable());
write('docs/floor.md', 'checks', checksTable());
writeFileSync('docs/formula.schema.json', `${JSON.stringify(formulaFileSchema(), null, 2)}\n`);
