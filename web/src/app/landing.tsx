import { Navigate } from "react-router";

import { useHome } from "../api/home";
import { Failed, Loading } from "../ui/states";

/** Where one comes to: the Shelf, and the first page where nobody has set anything up yet. */
export function Landing() {
  const home = useHome();
  if (home.isPending) return <Loading what="Rheon" />;
  if (home.isError) return <Failed error={home.error} onRetry={() => void home.refetch()} />;
  return <Navigate to={home.data.set_up ? "/shelf" : "/start"} replace />;
}
