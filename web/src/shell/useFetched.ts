// The only place that asks without the workshop's door in between.
// eslint-disable-next-line no-restricted-imports
import useSWR, { type Key, type SWRConfiguration, type SWRResponse } from 'swr';

/**
 * What a fetcher answers, kept by its key and read again as the workshop's own addresses are; without a fetcher nothing ever comes.
 *
 * @param key null reads nothing
 */
export function useFetched<T>(
  key: Key,
  fetcher: (key: string) => Promise<T>,
  options?: SWRConfiguration<T>,
): SWRResponse<T, unknown> {
  return useSWR<T, unknown>(key, fetcher, options);
}
