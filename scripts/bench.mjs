// npm run bench [-- reading leaf finding importing]: makes a throw-away PostgreSQL and a fresh build, then runs bench/run.ts on them.
import { spawnSync } from 'node:child_process';
import { Plain, throwAwayCluster } from './cluster.mjs';
import { alone, needBuild, needModules, needNode, ROOT } from './project.mjs';

let cluster = null;
try {
  needNode();
  await alone('make', async () => {
    needModules();
    await needBuild();
  });
  cluster = await throwAwayCluster({ durable: true });
  const env = {
    ...process.env,
    TIN_TEST_APP_URL: cluster.appUrl,
    TIN_TEST_OWNER_URL: cluster.ownerUrl,
    TIN_TEST_SUPER_URL: cluster.superUrl,
    LOG_LEVEL: 'error',
  };
  for (const script of ['tests/support/make-templates.ts', 'bench/run.ts']) {
    const { status } = spawnSync(process.execPath, ['--import', 'tsx', script, ...process.argv.slice(2)], {
      cwd: ROOT,
      stdio: 'inherit',
      env,
    });
    if (status !== 0) throw new Plain(`${script} failed.`);
  }
} catch (error) {
  console.error(error instanceof Plain ? error.message : error);
  process.exitCode = 1;
} finally {
  cluster?.remove();
}
