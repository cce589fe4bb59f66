import { FilePick } from "../../ui/FilePick";
import { PhotoDesk } from "./PhotoDesk";
import { READ, type Photo } from "./photo";
import { usePhotos } from "./usePhotos";

/** What comes next is most likely what is not there yet. */
function nextShown(all: readonly Photo[]): Photo["shows"] {
  return (["underside", "top", "slice"] as const).find((one) => !all.some((p) => p.shows === one)) ?? "top";
}

/** The photos of an entry: small in a row, one of them open, with what is measured on it. */
export function Photos({ entryId, take }: { entryId: number; take: (photo: Photo) => void }) {
  const desk = usePhotos(entryId);
  return (
    <section className="mt-5" aria-label="Photos">
      <h2 className="text-[20px] font-bold">Photos</h2>
      {desk.all.length === 0 ? (
        <p className="max-w-prose text-ash">
          Lay it on a white plate or on paper, in even light, and photograph it from above: the underside and
          the top. Colours are measured by the white.
        </p>
      ) : null}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {desk.all.map((photo) => (
          <button
            key={photo.id}
            type="button"
            aria-pressed={photo.id === desk.open?.id}
            aria-label={`photo of the ${photo.shows}`}
            className={`h-16 w-20 overflow-hidden border-2 ${photo.id === desk.open?.id ? "border-soot" : "border-line"}`}
            onClick={() => {
              desk.show(photo);
            }}
          >
            <img
              src={`/api/photos/${String(photo.id)}/picture?small=true`}
              alt=""
              className="size-full object-cover"
            />
          </button>
        ))}
        <FilePick
          label={desk.all.length === 0 ? "Add a photo" : "Add another"}
          accept={READ}
          className="quiet inline-flex min-h-11 items-center px-3"
          pick={(file) => {
            desk.add(file, nextShown(desk.all));
          }}
        />
        {desk.measuring ? (
          <span role="status" className="text-ash waiting">
            Being measured
          </span>
        ) : null}
      </div>
      {desk.problem ? (
        <p role="alert" className="mt-2 text-brick">
          {desk.problem}
        </p>
      ) : null}
      {desk.open ? (
        <PhotoDesk
          key={desk.open.id}
          photo={desk.open}
          busy={desk.measuring}
          say={(said) => {
            if (desk.open) desk.say(desk.open, said);
          }}
          remove={() => {
            if (desk.open) desk.remove(desk.open);
          }}
          take={take}
        />
      ) : null}
    </section>
  );
}
