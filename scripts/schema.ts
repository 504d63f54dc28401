/** npm run docs:schema: writes the JSON Schema of the project document. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { documentSchema } from '../core/document/document.ts';

const schema = z.toJSONSchema(documentSchema, { io: 'input', reused: 'ref' });
await writeFile(join(import.meta.dirname, '../docs/document.schema.json'), `${JSON.stringify(schema, null, 2)}\n`);
