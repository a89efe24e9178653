import type { Schemas } from "../../../api/client";
import { useReportPlayed } from "../../../api/queries";
import { ONE_TAP } from "../../../parts/trouble";
import { Button } from "../../../ui/button";
import { Notice } from "../../../ui/notice";

/** Once something has come to a device: whether it plays there, in one tap. */
export function AskPlayed({
  device,
  asks,
  onTold,
}: {
  device: Schemas["DeviceFiles"];
  asks: Schemas["PlayedQuestion"];
  onTold: () => void;
}) {
  const report = useReportPlayed(asks.output_id);
  return (
    <section
      aria-label="Did it play?"
      className="mt-3 rounded-card border border-hairline bg-sand px-4 py-2.5"
    >
      <p>
        Did <span className="font-semibold">{asks.title_name}</span> play on {device.device_name}?{" "}
        <span className="text-quiet">It is asked once; the answer makes the next files surer.</span>
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {ONE_TAP.map(([trouble, text]) => (
          <Button
            key={text}
            size="small"
            disabled={report.isPending}
            onClick={() => report.mutate({ device_id: device.device_id, trouble }, { onSuccess: onTold })}
          >
            {text}
          </Button>
        ))}
      </div>
      {report.isError && <Notice look="fault">{report.error.message}</Notice>}
    </section>
  );
}
