import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Children, isValidElement, type ReactNode } from 'react';

export type Action = { label: ReactNode; key?: string; note?: string; onChoose: () => void; disabled?: boolean };

/** The words shown in a node, without those of components. */
function wordsOf(node: ReactNode): string {
  return Children.toArray(node)
    .map((child) =>
      typeof child === 'string' || typeof child === 'number'
        ? String(child)
        : isValidElement<{ children?: ReactNode }>(child)
          ? wordsOf(child.props.children)
          : '',
    )
    .join('');
}

function nameOf(label: string, shown: string): string {
  const words = shown.replace(/[^\p{L}\p{N}\p{P}\s]/gu, '').trim();
  return !/[\p{L}\p{N}]/u.test(words) || label.toLowerCase().includes(words.toLowerCase())
    ? label
    : `${words}: ${label}`;
}

/** A button that opens a list of actions. What it says is part of its name, so that whoever speaks it finds it. */
export function ActionMenu({
  label,
  children,
  actions,
  className = '',
}: {
  label: string;
  children: ReactNode;
  actions: Action[];
  className?: string;
}) {
  return (
    <Menu>
      <MenuButton aria-label={nameOf(label, wordsOf(children))} className={className || 'link text-[12.5px]'}>
        {children}
      </MenuButton>
      <MenuItems
        anchor={{ to: 'bottom end', gap: 4 }}
        className="z-40 min-w-48 border border-hair bg-sheet py-1 shadow-lg outline-none"
      >
        {actions.map((action, at) => (
          <MenuItem key={action.key ?? at} disabled={action.disabled}>
            <button
              type="button"
              onClick={action.onChoose}
              className="flex w-full items-baseline justify-between gap-6 px-3 py-1.5 text-left text-[13px] data-disabled:text-faint data-focus:bg-wash"
            >
              <span>{action.label}</span>
              {action.note && <span className="text-[11.5px] text-second">{action.note}</span>}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
