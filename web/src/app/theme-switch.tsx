import { Moon, Sun } from "lucide-react";
import { useState } from "react";

import { Button } from "../ui/button";

export function ThemeSwitch() {
  const [dark, setDark] = useState(() => document.documentElement.dataset.theme === "dark");
  const toggle = () => {
    document.documentElement.dataset.theme = dark ? "light" : "dark";
    localStorage.setItem("rheon-theme", dark ? "light" : "dark");
    setDark(!dark);
  };
  return (
    <Button
      look="quiet"
      size="icon"
      onClick={toggle}
      aria-label={dark ? "Use the light theme" : "Use the dark theme"}
    >
      {dark ? <Sun size={17} /> : <Moon size={17} />}
    </Button>
  );
}
