import { dataFolder } from '../server/data-folder.ts';
import { openDatabase } from '../server/store/database.ts';
import { FileStore } from '../server/store/files.ts';
import { ProjectStore } from '../server/store/projects.ts';
import { fillWithDemo } from './fill.ts';

const db = openDatabase(dataFolder);
// Only said lines go out: the server reads them.
await fillWithDemo(new ProjectStore(db), new FileStore(db, dataFolder), (line) => console.log(line));
db.close();
