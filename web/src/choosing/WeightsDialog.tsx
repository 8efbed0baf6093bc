import { useState } from 'react';
import type { Weights, WorthTerm } from '../api/client';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Steps } from '../ui/Steps';
import { terms } from './terms';
import { useWeights } from './weights';

const order = Object.keys(terms) as WorthTerm[];

/** How much each term counts, set by hand; ready weights to begin from. */
export function WeightsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="As I like it" open={open} onClose={onClose}>
      <Setting onClose={onClose} />
    </Dialog>
  );
}

function Setting({ onClose }: { onClose: () => void }) {
  const { about, weights, weigh, weighAs } = useWeights();
  const [set, setSet] = useState<Weights>(weights);
  const present = JSON.stringify(weights);
  const nothing = order.every((term) => set[term] === 0);
  return (
    <>
      <p className="mb-3 text-second">
        How much each of these counts when ideas are put in order: from nothing at all to five.
      </p>
      <table className="w-full text-[13px]">
        <tbody>
          {order.map((term) => (
            <tr key={term} className="border-b border-rule">
              <th scope="row" className="w-24 py-1.5 text-left align-top font-semibold">
                {terms[term].name}
              </th>
              <td className="py-1.5 pr-4 text-second">{terms[term].about}</td>
              <td className="w-[92px] py-1 text-right whitespace-nowrap">
                <Steps
                  label={`How much ${terms[term].name} counts`}
                  value={Math.round(set[term]) || null}
                  onChange={(value) => setSet({ ...set, [term]: value ?? 0 })}
                />
                <span className="figures ml-1 inline-block w-6 text-[12px] text-second">{set[term]}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <section aria-label="Ready weights" className="mt-4">
        <h3 className="label text-second">Or as it comes</h3>
        {about?.ready.map((ready) => (
          <p key={ready.key} className="mt-1.5">
            <button
              type="button"
              className="link font-semibold"
              onClick={() => {
                weighAs(ready.key, `Weighed ${ready.name} now.`);
                onClose();
              }}
            >
              {ready.name}
            </button>{' '}
            <span className="text-second">{ready.about}</span>
          </p>
        ))}
      </section>
      {nothing && (
        <p role="alert" className="mt-3 text-red">
          Something has to count: with every weight at nothing there is no order.
        </p>
      )}
      <div className="mt-5 text-right">
        <Button
          look="main"
          disabled={nothing || JSON.stringify(set) === present}
          onClick={() => {
            weigh(set, 'Weighed as you like it now.');
            onClose();
          }}
        >
          Weigh like this
        </Button>
      </div>
    </>
  );
}
