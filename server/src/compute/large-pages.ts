const tunable = 'glibc.malloc.hugetlb=1'

/**
 * An environment in which the allocator of glibc asks the kernel for pages of 2 MB behind large buffers (madvise, MADV_HUGEPAGE), as
 * NumPy does for its own. A new column of 1,000,000 rows then costs 2 to 4 faults of the memory instead of 1,000 to 2,000. Other
 * C libraries and systems pass over it. Source: The GNU C Library Reference Manual, Memory Allocation Tunables.
 */
export const withLargePages = (env: NodeJS.ProcessEnv): NodeJS.ProcessEnv => {
  const set = env.GLIBC_TUNABLES
  // what somebody has chosen for the whole server stays
  if (set?.includes('glibc.malloc.hugetlb')) return env
  return { ...env, GLIBC_TUNABLES: set ? `${set}:${tunable}` : tunable }
}
