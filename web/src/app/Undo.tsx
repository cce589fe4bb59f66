import { Button } from "../ui/Button";
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from "react";

interface Offer {
  text: string;
  undo: () => void;
}

const Context = createContext<(offer: Offer) => void>(() => undefined);

/** How long a deletion can be taken back from the notice. */
const SHOWN_MS = 20_000;

/** Says what was just deleted and offers to take it back, whatever view the cook goes to. */
export function UndoProvider({ children }: { children: ReactNode }) {
  const [offer, setOffer] = useState<Offer | null>(null);
  useEffect(() => {
    if (!offer) return undefined;
    const timer = setTimeout(() => {
      setOffer(null);
    }, SHOWN_MS);
    return () => {
      clearTimeout(timer);
    };
  }, [offer]);
  const give = useMemo(
    () => (next: Offer) => {
      setOffer(next);
    },
    [],
  );
  return (
    <Context.Provider value={give}>
      {children}
      <div role="status" className="fixed bottom-4 left-1/2 z-30 -translate-x-1/2">
        {offer ? (
          <p className="leaf flex items-center gap-6 px-4 py-2.5">
            {offer.text}
            <Button
              look="link"
              className="font-semibold text-air"
              onClick={() => {
                offer.undo();
                setOffer(null);
              }}
            >
              Undo
            </Button>
          </p>
        ) : null}
      </div>
    </Context.Provider>
  );
}

export function useUndo(): (offer: Offer) => void {
  return useContext(Context);
}
