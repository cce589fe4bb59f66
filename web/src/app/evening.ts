import { useEffect, useState } from "react";

type Light = "day" | "evening";

function start(): Light {
  const kept = localStorage.getItem("light");
  if (kept === "day" || kept === "evening") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "evening" : "day";
}

/** Day or evening: the machine's preference until the cook chooses. */
export function useEvening(): [boolean, () => void] {
  const [light, setLight] = useState<Light>(start);
  useEffect(() => {
    document.documentElement.dataset.light = light;
  }, [light]);
  const toggle = () => {
    const next = light === "day" ? "evening" : "day";
    localStorage.setItem("light", next);
    setLight(next);
  };
  return [light === "evening", toggle];
}
