import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { useFormats } from '../api/queries';

/** The formats a slip would make: none, one or several. */
export function FormatsField({
  value,
  onChange,
  label = 'As',
  none = 'open',
  className = '',
  tabIndex,
}: {
  value: readonly string[];
  onChange: (formats: string[]) => void;
  label?: string;
  /** Said where none is chosen. */
  none?: string;
  className?: string;
  tabIndex?: number;
}) {
  const formats = useFormats().data ?? [];
  const names = formats.filter((format) => value.includes(format.key)).map((format) => format.name.toLowerCase());
  return (
    <Listbox multiple value={[...value]} onChange={onChange}>
      <ListboxButton
        aria-label={`${label}: ${names.join(', ') || none}`}
        tabIndex={tabIndex}
        className={`block min-h-[24px] w-full truncate py-0.5 text-left hover:text-blue ${names.length > 0 ? '' : 'text-second'} ${className}`}
      >
        {names.join(', ') || none} <span className="text-[11px] text-second">▾</span>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        modal={false}
        className="z-30 border border-hair bg-sheet py-1 shadow-[0_5px_14px_-6px_rgba(27,36,33,0.4)] outline-none"
      >
        {formats.map((format) => (
          <ListboxOption
            key={format.key}
            value={format.key}
            className="flex cursor-default items-baseline gap-2 px-3 py-1 data-[focus]:bg-wash"
          >
            {({ selected }) => (
              <>
                <span aria-hidden className="w-3 font-semibold text-blue">
                  {selected ? '✓' : ''}
                </span>
                {format.name.toLowerCase()}
              </>
            )}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
