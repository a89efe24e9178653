import { createBrowserRouter } from "react-router";

import { BenchPlace } from "../places/bench/bench-place";
import { NamesView } from "../places/bench/names/names-view";
import { PlanSheet } from "../places/bench/plan-sheet";
import { VerdictsView } from "../places/bench/verdicts-view";
import { PREFIX } from "../api/base";
import { SettingsPlace } from "../places/home/settings-place";
import { StartPlace } from "../places/home/start-place";
import { HouseholdPlace } from "../places/household/household-place";
import { EditProfile, NewProfile } from "../places/household/profile-form";
import { OutboxDevices } from "../places/outbox/outbox-devices";
import { OutboxPlace } from "../places/outbox/outbox-place";
import { OutputOfJob } from "../places/outbox/output-of-job";
import { ShelfPlace } from "../places/shelf/shelf-place";
import { HistoryPlace } from "../places/worklist/history-place";
import { WorklistPlace } from "../places/worklist/worklist-place";
import { Broken, NotHere } from "./broken";
import { Landing } from "./landing";
import { Shell } from "./shell";

export const router = createBrowserRouter(
  [
    {
      element: <Shell />,
      errorElement: <Broken />,
      children: [
        {
          errorElement: <Broken />,
          children: [
            { index: true, element: <Landing /> },
            { path: "start", element: <StartPlace /> },
            { path: "settings", element: <SettingsPlace /> },
            { path: "shelf", element: <ShelfPlace /> },
            { path: "shelf/titles/:titleId", element: <ShelfPlace /> },
            { path: "bench", element: <BenchPlace /> },
            { path: "bench/names", element: <NamesView /> },
            { path: "bench/verdicts/:titleId", element: <VerdictsView /> },
            { path: "bench/:titleId/:targetId", element: <PlanSheet /> },
            { path: "worklist", element: <WorklistPlace /> },
            { path: "worklist/history", element: <HistoryPlace /> },
            { path: "outbox", element: <OutboxPlace /> },
            { path: "outbox/of-job/:jobId", element: <OutputOfJob /> },
            { path: "outbox/devices", element: <OutboxDevices /> },
            { path: "outbox/devices/:deviceId", element: <OutboxDevices /> },
            { path: "outbox/:outputId", element: <OutboxPlace /> },
            { path: "household", element: <HouseholdPlace /> },
            { path: "household/new", element: <NewProfile /> },
            { path: "household/:deviceId", element: <EditProfile /> },
            { path: "*", element: <NotHere /> },
          ],
        },
      ],
    },
  ],
  { basename: PREFIX || "/" },
);
