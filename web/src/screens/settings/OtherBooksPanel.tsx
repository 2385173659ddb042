import type { Member } from '@zubrell/contract/people';
import { t } from '@zubrell/core/words/t';
import { booksApi } from '../../api/books.ts';
import { peopleApi } from '../../api/people.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';

/** Whether what the owner did in other books is proposed here, and who may see that. */
export function OtherBooksPanel() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [changeBooks, { isLoading }] = booksApi.useChangeBooksMutation();
  const { data } = peopleApi.usePeopleQuery(booksId);
  const { role, usesOtherBooks, owners } = setup.books;
  const isOwner = role === 'owner';
  const others = data?.members.filter(sees) ?? [];
  const waiting = others.filter(({ seesOtherBooks }) => !seesOtherBooks);
  return (
    <section className="sheet">
      <h2>{isOwner ? t`Your other books` : t`The owner’s other books`}</h2>
      <p className="quiet">
        {isOwner
          ? t`For suppliers that you have coded in other books, the account is proposed here from the first day. Such proposals always wait in Check, and all they show of the other books is how many agree. Books with this setting on learn from each other.`
          : t`${owners.join(', ')} can change this.`}
      </p>
      <label className="setting">
        <input
          type="checkbox"
          className="form-check-input"
          disabled={!isOwner || isLoading}
          checked={usesOtherBooks}
          onChange={async ({ target }) =>
            told(await changeBooks({ booksId, usesOtherBooks: target.checked }))
          }
        />
        {isOwner ? t`Use coding from my other books` : t`Use coding from other books`}
      </label>
      {usesOtherBooks && others.length > 0 && (
        <fieldset className="setting flex-column align-items-start" disabled={!isOwner}>
          <legend className="fs-6 mb-0">{t`Who may see these proposals`}</legend>
          {others.map((member) => (
            <MemberSwitch key={member.userId} member={member} />
          ))}
        </fieldset>
      )}
      {usesOtherBooks && waiting.length > 0 && (
        <p className="mb-0">
          {waiting.length === 1
            ? t`Nothing is proposed from other books while ${waiting[0]?.name} works here and may not see these proposals.`
            : t`Nothing is proposed from other books while ${waiting.map(({ name }) => name).join(', ')} work here and may not see these proposals.`}
        </p>
      )}
    </section>
  );
}

/** Whether a member sees proposals at all, and is not the owner. */
const sees = ({ role }: Member) => role === 'bookkeeper' || role === 'reviewer';

function MemberSwitch({ member }: { readonly member: Member }) {
  const { booksId } = useBooks();
  const [letSee, { isLoading }] = peopleApi.useLetSeeOtherBooksMutation();
  const { userId, name, seesOtherBooks } = member;
  return (
    <label className="setting">
      <input
        type="checkbox"
        className="form-check-input"
        disabled={isLoading}
        checked={seesOtherBooks}
        onChange={async ({ target }) => {
          const wanted = { booksId, userId, seesOtherBooks: target.checked };
          const { error } = await letSee(wanted);
          if (error) toast.error(shownProblem(error).message);
        }}
      />
      {name}
    </label>
  );
}
