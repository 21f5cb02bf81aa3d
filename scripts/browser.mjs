/** How Chromium is started in tests and for pictures: Debian's, without anything that would reach for a network. */
export const launchOptions = {
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update',
    '--disable-sync', '--disable-dev-shm-usage', '--autoplay-policy=no-user-gesture-required',
  ],
}
