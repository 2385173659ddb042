import { type ComponentType, type ReactNode, useState } from 'react';

/** The button of a menu. */
export interface MenuButton {
  readonly className: string;
  /** What it is called where its content doesn't say it. */
  readonly label?: string;
  readonly content: ReactNode;
  /** Class of what is around the button and its menu. */
  readonly around?: string;
}

/** What a menu that was loaded late is given beside its own props. */
export interface LateProps {
  readonly button: MenuButton;
}

/**
 * A menu of which only the button is there until it is wanted: what stands in it, and what places it, comes when it is
 * first pressed, and opens then.
 *
 * @param load gives the menu, made of a `MenuFrame`
 */
export function LateMenu<Props extends object>({
  button,
  load,
  props,
}: {
  readonly button: MenuButton;
  readonly load: () => Promise<ComponentType<Props & LateProps>>;
  readonly props: Props;
}) {
  const [loaded, setLoaded] = useState<{ readonly Menu: ComponentType<Props & LateProps> } | null>(
    null,
  );
  if (loaded !== null) return <loaded.Menu {...props} button={button} />;
  const soon = () => void load();
  const open = () => void load().then((Menu) => setLoaded({ Menu }));
  return (
    <div className={`dropdown ${button.around ?? ''}`}>
      <button
        type="button"
        className={`dropdown-toggle ${button.className}`}
        aria-label={button.label}
        aria-expanded={false}
        onPointerEnter={soon}
        onFocus={soon}
        onClick={open}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowDown') return;
          event.preventDefault();
          open();
        }}
      >
        {button.content}
      </button>
    </div>
  );
}
