export default function stop() {
  globalThis.testCluster?.stop()
}
