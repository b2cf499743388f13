// npm run upgrade: brings the database up to what this version needs, all of it or nothing; processes that run go on meanwhile.
import { saying } from './backup/saying.ts';
import { Plain } from './cluster.mjs';
import { migrate } from './migrate.ts';

await saying(async () => {
  const url = process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL;
  if (!url)
    throw new Plain(
      'Say in DATABASE_OWNER_URL which database it is, as its owner. A private one is brought up to date by `npm start`.',
    );
  const count = await migrate(url).catch((error: Error) => {
    throw new Plain(
      `The database stands where it stood, and the version that runs goes on. What stopped it: ${error.message}`,
    );
  });
  console.log(count === 0 ? 'The database was up to date.' : `${count} migrations, all taken.`);
});
