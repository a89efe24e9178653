import {
  Car,
  Disc3,
  Gamepad2,
  Globe,
  HardDrive,
  Headphones,
  Image,
  Laptop,
  Monitor,
  Music2,
  Projector,
  Smartphone,
  Tablet,
  Target,
} from "lucide-react";

import type { Schemas } from "../api/client";

const ICONS = {
  phone: Smartphone,
  tablet: Tablet,
  tv: Monitor,
  player: HardDrive,
  pocket: Music2,
  browser: Globe,
  car: Car,
  sound: Headphones,
  console: Gamepad2,
  projector: Projector,
  computer: Laptop,
  disc_player: Disc3,
  frame: Image,
  goal: Target,
} as const;

export function DeviceIcon({ kind, size = 18 }: { kind: Schemas["DeviceKind"]; size?: number }) {
  const Icon = ICONS[kind];
  return <Icon size={size} className="shrink-0 text-river" aria-hidden />;
}
