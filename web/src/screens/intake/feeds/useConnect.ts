import { feedsApi } from '../../../api/feeds.ts';
import { shownProblem } from '../../../app/problem.ts';
import { toast } from '../../../app/toast.ts';
import { useBooks } from '../../../app/useBooks.ts';

/** Leads to a bank's page, where its customer signs in and gives a consent. */
export function useConnect(): {
  readonly connect: (connector: string) => Promise<void>;
  readonly isBusy: boolean;
} {
  const { booksId } = useBooks();
  const [ask, { isLoading }] = feedsApi.useAskConsentMutation();
  return {
    isBusy: isLoading,
    connect: async (connector) => {
      const { data, error } = await ask({ booksId, connector });
      if (data) window.location.assign(data.page);
      else toast.error(shownProblem(error).message);
    },
  };
}
