import type { components } from '../../api/schema';
import type { Row } from './proposal';

type Share = components['schemas']['FormShare'];

/** The mix of forms that is recommended, against what is proposed. */
export function Forms({
  forms,
  rows,
  promoting,
  onPromoting,
  promoteMore,
  onPromoteMore,
}: {
  forms: readonly Share[];
  rows: readonly Row[];
  promoting: readonly string[];
  onPromoting: (formats: readonly string[]) => void;
  promoteMore: boolean;
  onPromoteMore: (more: boolean) => void;
}) {
  if (forms.length === 0) return null;
  return (
    <section aria-label="A mix of forms" className="mt-10">
      <h2 className="label border-b border-ink pb-1">A mix of forms</h2>
      <p className="mt-2 max-w-[70ch] text-[13px] text-second">
        By what each reached and the hours it takes. The dates of cadences have their forms; dates that are added take
        those that lack most. What promotes yourself stays the smallest share.
      </p>
      <table className="mt-2 w-full text-[13px]">
        <thead>
          <tr className="label border-b border-rule text-right text-second">
            <th className="py-1 text-left">Form</th>
            <th className="px-3">Share</th>
            <th className="px-3">Dates</th>
            <th className="px-3">Here</th>
            <th className="px-3 text-left max-md:hidden">Because</th>
            <th className="px-1 text-left">Promotes me</th>
          </tr>
        </thead>
        <tbody>
          {forms.map((form) => (
            <tr key={form.format} className="border-b border-rule align-baseline">
              <th scope="row" className="py-1.5 pr-3 text-left font-semibold">
                {form.name}
              </th>
              <td className="figures px-3 text-right">{form.percent}%</td>
              <td className="figures px-3 text-right">{form.count}</td>
              <td className="figures px-3 text-right">{rows.filter((row) => row.format === form.format).length}</td>
              <td className="px-3 text-second max-md:hidden">{form.because}</td>
              <td className="px-1">
                <input
                  type="checkbox"
                  aria-label={`${form.name} promotes me`}
                  checked={promoting.includes(form.format)}
                  onChange={(event) =>
                    onPromoting(
                      event.target.checked
                        ? [...promoting, form.format]
                        : promoting.filter((one) => one !== form.format),
                    )
                  }
                  className="h-4 w-4 accent-(--blue)"
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {promoting.length > 0 && (
        <label className="mt-2 flex min-h-6 items-center gap-2 text-[13px]">
          <input
            type="checkbox"
            checked={promoteMore}
            onChange={(event) => onPromoteMore(event.target.checked)}
            className="h-4 w-4 accent-(--blue)"
          />
          let what promotes me have more
        </label>
      )}
    </section>
  );
}
