import { Modal } from "@mantine/core";
import { useEffect, useEffectEvent, useState } from "react";

import { Failure } from "../ui/States";
import classes from "./DropAnywhere.module.css";
import { useDrop } from "./drop";

/** A design document or token file can be dropped on any view. */
export function DropAnywhere() {
  const [over, setOver] = useState(false);
  const { drop, refused, forget } = useDrop();
  const take = useEffectEvent((files: FileList | undefined) => void drop([...(files ?? [])]));
  useEffect(() => {
    let depth = 0;
    const withFiles = (e: DragEvent) => e.dataTransfer?.types.includes("Files");
    const enter = (e: DragEvent) => {
      if (withFiles(e) && ++depth === 1) setOver(true);
    };
    const leave = () => {
      if (--depth <= 0) {
        depth = 0;
        setOver(false);
      }
    };
    const move = (e: DragEvent) => {
      if (withFiles(e)) e.preventDefault();
    };
    const land = (e: DragEvent) => {
      if (!withFiles(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      take(e.dataTransfer?.files);
    };
    window.addEventListener("dragenter", enter);
    window.addEventListener("dragleave", leave);
    window.addEventListener("dragover", move);
    window.addEventListener("drop", land);
    return () => {
      window.removeEventListener("dragenter", enter);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("dragover", move);
      window.removeEventListener("drop", land);
    };
  }, []);
  return (
    <>
      {over && <div className={classes.over}>Drop a design document or a token file</div>}
      <Modal opened={refused.length > 0} onClose={forget} title="Not taken" size="xl" closeButtonProps={{ "aria-label": "Close" }}>
        {refused.map((r) => (
          <Failure key={r.file} error={r.error} />
        ))}
      </Modal>
    </>
  );
}
