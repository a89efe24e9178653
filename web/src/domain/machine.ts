interface Machine {
  hot: boolean;
  on_battery: boolean | null;
  battery_minded: boolean;
}

/** Whether everything stands still for the machine's sake. */
export const isSpared = ({ hot, on_battery, battery_minded }: Machine) =>
  hot || (on_battery === true && battery_minded);
