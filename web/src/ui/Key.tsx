/** Shows the key that does the same. */
export function Key({ children }: { children: string }) {
  return (
    <kbd className="narrow inline-flex h-[19px] min-w-[22px] items-center justify-center rounded-key border border-hair border-b-2 bg-sheet px-1 font-sans text-[10.5px] font-semibold text-second">
      {children}
    </kbd>
  );
}
