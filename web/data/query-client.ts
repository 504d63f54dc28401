import { QueryClient } from '@tanstack/react-query';

/** What was asked of the server, for all rooms. */
export const queryClient = new QueryClient({
  defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1 } },
});
