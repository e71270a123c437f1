/**
 * Milliseconds of processor time that some work takes in this process. Other programs on the machine make it wait,
 * which a clock on the wall would count as slowness of ours.
 */
export function cpuMilliseconds(work: () => void): number {
  const before = process.cpuUsage()
  work()
  const { user, system } = process.cpuUsage(before)
  return (user + system) / 1000
}
