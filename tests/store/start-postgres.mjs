import { startTestCluster } from '../../scripts/postgres.mjs'

/** Uses the cluster that bin/test has started, or starts one for this run. */
export default async function start() {
  if (process.env.QUILL_TEST_CLUSTER !== undefined) return
  globalThis.testCluster = await startTestCluster()
  process.env.QUILL_TEST_CLUSTER = globalThis.testCluster.url('postgres')
}
