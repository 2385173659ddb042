import { type ComponentType, lazy, Suspense } from 'react';

/**
 * A part that is fetched when it is first shown; until it is there, nothing stands in its place.
 *
 * @param load fetches its module and gives the component. Nothing that is typed into at once should come late.
 */
export function late<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
): ComponentType<Props> {
  const Late = lazy<ComponentType<Props>>(async () => ({ default: await load() }));
  return (props) => (
    <Suspense>
      <Late {...props} />
    </Suspense>
  );
}
