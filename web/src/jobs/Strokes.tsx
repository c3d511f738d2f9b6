/** A photo with strokes drawn on it: taken or chosen, drawn on with a finger, then kept like any other photo. */
import { useEffect, useRef, useState } from "react";
import { Act, address, Complaint, outbox, shrunk } from "../base";
import css from "./strokes.module.scss";

const MOST_PIXELS = 60e6;
const SIDE = 1600;

export function Draw({ setId, tag, entry }: { setId: number; tag: string; entry: string }) {
  const [photo, setPhoto] = useState<ImageBitmap | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [kept, setKept] = useState(false);
  const canvas = useRef<HTMLCanvasElement>(null);
  const last = useRef<[number, number] | null>(null);
  useEffect(() => {
    const c = canvas.current;
    if (!photo || !c) return;
    const k = Math.min(1, SIDE / Math.max(photo.width, photo.height));
    c.width = Math.round(photo.width * k);
    c.height = Math.round(photo.height * k);
    c.getContext("2d")?.drawImage(photo, 0, 0, c.width, c.height);
  }, [photo]);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setError(null);
    setKept(false);
    try {
      const made = await createImageBitmap(file);
      if (made.width * made.height > MOST_PIXELS) {
        const megapixels = Math.round((made.width * made.height) / 1e6);
        setError(`This photo has ${String(megapixels)} megapixels: take it smaller, 60 are taken.`);
        made.close();
        return;
      }
      setPhoto(made);
    } catch {
      setError("This file cannot be read as a photo. Take it again, or choose a JPEG, PNG or WebP.");
    }
  };
  const at = (e: React.PointerEvent<HTMLCanvasElement>): [number, number] => {
    const c = e.currentTarget;
    const r = c.getBoundingClientRect();
    return [((e.clientX - r.left) / r.width) * c.width, ((e.clientY - r.top) / r.height) * c.height];
  };
  const stroke = (e: React.PointerEvent<HTMLCanvasElement>) => {
    const from = last.current;
    const pen = e.currentTarget.getContext("2d");
    if (!from || !pen) return;
    const to = at(e);
    pen.strokeStyle = "#e0421b";
    pen.lineWidth = Math.max(4, e.currentTarget.width / 180);
    pen.lineCap = "round";
    pen.beginPath();
    pen.moveTo(...from);
    pen.lineTo(...to);
    pen.stroke();
    last.current = to;
  };
  const keep = async () => {
    const c = canvas.current;
    if (!c) return;
    const blob = await new Promise<Blob | null>((done) => c.toBlob(done, "image/jpeg", 0.85));
    if (!blob) return;
    const uuid = crypto.randomUUID();
    try {
      const small = await shrunk(new File([blob], "drawn.jpg", { type: "image/jpeg" }));
      await outbox.write(
        "POST",
        address("/api/v1/sets/{set_id}/attachments", { set_id: setId }),
        { uuid, title: "drawn on", part: "", entry },
        `${tag}, photo`,
        uuid,
        small,
      );
      setPhoto(null);
      setKept(true);
    } catch (e) {
      setError(e instanceof Error ? e.message : "The photo was not kept.");
    }
  };
  return (
    <div className={css.draw}>
      {!photo && (
        <label className="btn-line">
          Photo to draw on
          <input
            type="file"
            accept="image/*"
            capture="environment"
            onChange={(e) => {
              void take(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </label>
      )}
      {kept && <span role="status">Added.</span>}
      <Complaint error={error} />
      {photo && (
        <>
          <canvas
            ref={canvas}
            aria-label="Photo, draw on it with a finger"
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              last.current = at(e);
            }}
            onPointerMove={stroke}
            onPointerUp={() => (last.current = null)}
          />
          <Act waits={null} className="btn-ink" onClick={() => void keep()}>
            Keep photo
          </Act>{" "}
          <button type="button" className="linklike" onClick={() => setPhoto(null)}>
            Cancel
          </button>
        </>
      )}
    </div>
  );
}
