import { Link } from "react-router";

import { Button } from "../ui/button";
import { Empty } from "../ui/states";

/** What is shown where a screen failed to draw. */
export function Broken() {
  return (
    <Empty
      title="This screen could not be shown"
      action={<Button onClick={() => location.reload()}>Load it again</Button>}
    >
      Nothing was lost: what is being made goes on in the background.
    </Empty>
  );
}

export function NotHere() {
  return (
    <Empty
      title="There is nothing at this address"
      action={
        <Button asChild>
          <Link to="/shelf">Go to the Shelf</Link>
        </Button>
      }
    >
      Perhaps it was removed, or the address has a slip in it.
    </Empty>
  );
}
