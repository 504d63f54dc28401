/** npm run docs:schema: writes the JSON Schema of the project document, and the tables of kinds in docs/document.md. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { documentSchemaText, withKindTables } from './document-docs.ts';

const docs = join(import.meta.dirname, '../docs');
await writeFile(join(docs, 'document.schema.json'), documentSchemaText());
const page = join(docs, 'document.md');
await writeFile(page, withKindTables(await readFile(page, 'utf8')));
