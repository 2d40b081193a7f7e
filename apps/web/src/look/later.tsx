import { lazy, Suspense, useState, type ComponentType } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Text } from 'react-native';

/**
 * A part of a view whose program is fetched when it is first shown: nothing is there until it has come. When it cannot be
 * fetched, that is said, and the next view that shows it tries again.
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>): ComponentType<Props> {
  const fetched = () =>
    lazy(async () => {
      try {
        return { default: await load() };
      } catch (error) {
        Part = fetched();
        throw error;
      }
    });
  let Part = fetched();
  return function Later(props: Props) {
    // A view that could not fetch it stays so.
    const [Own] = useState(() => Part);
    return (
      <ErrorBoundary fallback={<Unfetched />}>
        <Suspense fallback={null}>
          <Own {...props} />
        </Suspense>
      </ErrorBoundary>
    );
  };
}

const Unfetched = () => (
  <Text className="font-sans text-14 text-faint">
    This part could not be fetched. Open it again once the server answers.
  </Text>
);
