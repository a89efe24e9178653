import type { Schemas } from "../../api/client";
import { fidelityText } from "../../domain/fidelity";
import { sizeText } from "../../domain/sizes";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";

type Balance = Schemas["Balance"];

/** Proposes a smaller picture where that was measured to keep more at the size that is planned. */
export function FewerLines({
  known,
  chosen,
  onUse,
}: {
  known: Schemas["TradeOff"] | undefined;
  chosen: Balance | null;
  onUse: (pins: Record<string, string>) => void;
}) {
  const smaller = known?.smaller.find((one) => one.balance === chosen);
  const planned = known?.scores.find((one) => one.balance === chosen) ?? known?.by_hand;
  if (!known || !smaller || !planned) return null;
  return (
    <div className="mt-2">
      <Notice look="reason">
        <strong>{smaller.lines} lines look better at this size.</strong> At about{" "}
        {sizeText(smaller.size_bytes)} {known.measure} is {fidelityText(smaller.mean, known.unit)} with them,
        and {fidelityText(planned.mean, known.unit)} as planned.{" "}
        <Button look="link" size="text" onClick={() => onUse(smaller.pins)}>
          Use {smaller.lines} lines
        </Button>
      </Notice>
    </div>
  );
}
