import { Modal } from "@mantine/core";

import { Failure } from "../ui/States";
import classes from "./DropAnywhere.module.css";
import { useDrop, useFilesOver } from "./drop";

/** A design document or token file can be dropped on any view. */
export function DropAnywhere() {
  const { drop, refused, forget } = useDrop();
  const over = useFilesOver((files) => void drop(files));
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
