import { ensureDatabase, openCluster } from './postgres.mjs';
import { inRoot } from './paths.mjs';

/** The cluster of the tests: of its own, fast, and free to lose everything. */
export async function databaseForTests() {
  const cluster = await openCluster({ folder: inRoot('.data', 'test'), durable: false });
  await ensureDatabase(cluster, 'test_main');
  return {
    cluster,
    env: {
      TEST_ADMIN_URL: cluster.adminUrl(),
      TEST_OWNER_URL: cluster.ownerUrl('test_main'),
      TEST_APP_URL: cluster.appUrl('test_main'),
    },
  };
}
