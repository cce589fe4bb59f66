import { Button } from "../../ui/Button";
import { Taps } from "../../ui/Taps";
import { PhotoMarks } from "./PhotoMarks";
import { saidOf, tapped, type Photo, type Said } from "./photo";

const SHOWS = ["underside", "top", "slice"] as const;
const WHITES = ["plate", "paper", "grey card"] as const;

/** One photo, with where its white and its crust are; what is measured, and what cannot be told. */
export function PhotoDesk({
  photo,
  busy,
  say,
  remove,
  take,
}: {
  photo: Photo;
  busy: boolean;
  say: (said: Said) => void;
  remove: () => void;
  take: (photo: Photo) => void;
}) {
  const said = saidOf(photo);
  return (
    <div className="mt-3 grid gap-x-5 gap-y-2 md:grid-cols-[minmax(0,22rem)_1fr]">
      <div>
        <PhotoMarks
          photo={photo}
          tap={(place) => {
            if (!busy) say(tapped(photo, place));
          }}
          draw={(outline) => {
            say({ ...said, outline });
          }}
        />
        {photo.shows === "slice" ? null : (
          <p className="text-[13.5px] text-ash">
            Tap something white or grey. Pull a point of the outline where it is wrong.
            <span className="hidden md:inline">
              {" "}
              By key: arrows move the cross, Enter taps, N takes the next point.
            </span>
          </p>
        )}
      </div>
      <div>
        <Taps
          label="It shows the"
          words={SHOWS}
          value={photo.shows}
          pick={(shows) => {
            if (shows) say({ ...said, shows });
          }}
        />
        {photo.shows === "slice" ? null : (
          <Taps
            label="White is the"
            words={WHITES}
            value={photo.white}
            pick={(white) => {
              if (white) say({ ...said, white });
            }}
          />
        )}
        <Measured photo={photo} take={take} />
        <p className="mt-1 flex flex-wrap gap-x-4">
          {photo.by_hand || photo.tapped ? (
            <Button
              look="link"
              className="min-h-11 text-air"
              onClick={() => {
                say({ ...said, outline: null, whites: [] });
              }}
            >
              Find both by itself again
            </Button>
          ) : null}
          <Button look="link" className="min-h-11 text-brick" onClick={remove}>
            Take the photo out
          </Button>
        </p>
      </div>
    </div>
  );
}

function Measured({ photo, take }: { photo: Photo; take: (photo: Photo) => void }) {
  const { parts = [], words = [], cannot = [] } = photo.measured;
  return (
    <div role="status" aria-label="What is measured">
      {parts.map((one) => (
        <p key={one.part} className="mt-2 flex items-center gap-3 text-[17px]">
          <span className="h-9 w-10 shrink-0" style={{ background: one.colour }} />
          <span className="w-16">{one.part}</span>
          <strong className="whitespace-nowrap">{one.word}</strong>
          <span className="ml-auto whitespace-nowrap tabular-nums text-ash">L* {one.l_star.toFixed(0)}</span>
        </p>
      ))}
      <ul className="mt-1.5">
        {words.slice(parts.length).map((line) => (
          <li key={line}>{line}</li>
        ))}
        {cannot.map((line) => (
          <li key={line} className="text-ash">
            {line}
          </li>
        ))}
        {photo.problem ? <li className="text-brick">{photo.problem}</li> : null}
      </ul>
      {parts.length > 0 ? (
        <Button
          className="mt-2 min-h-11 px-3"
          onClick={() => {
            take(photo);
          }}
        >
          Put {parts.map((one) => one.part).join(" and ")} into the entry
        </Button>
      ) : null}
    </div>
  );
}
