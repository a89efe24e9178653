import { Check, X } from "lucide-react";

import type { Schemas } from "../api/client";

/** Rules of a device with what was measured and what is allowed. */
export function RuleTable({ rules, label }: { rules: Schemas["Rule"][]; label: string }) {
  return (
    <table className="mt-1 w-full border-t border-hairline" aria-label={label}>
      <thead className="sr-only">
        <tr>
          <th scope="col">kept</th>
          <th scope="col">rule</th>
          <th scope="col">measured</th>
          <th scope="col">allowed</th>
        </tr>
      </thead>
      <tbody>
        {rules.map((rule, place) => (
          <tr key={`${rule.rule} ${place}`} className="border-b border-hairline align-top">
            <td className="w-7 py-1">
              {rule.ok ? (
                <Check size={15} className="text-moss" aria-label="kept" />
              ) : (
                <X size={15} className="text-madder" aria-label="broken" />
              )}
            </td>
            <td className="w-[128px] py-1 pr-3 text-quiet first-letter:uppercase">{rule.rule}</td>
            <td className="py-1 pr-3 font-semibold">{rule.measured}</td>
            <td className="py-1 text-quiet">{rule.allowed}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
