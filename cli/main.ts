import { answer } from './answer.ts';

const { status, said } = await answer(process.argv.slice(2));
if (status === 0) console.log(said);
else console.error(said);
process.exitCode = status;
