import { ActionIcon, Button, Checkbox, CopyButton, NumberInput, Select, Switch } from "@mantine/core";
import { IconArrowDown, IconArrowUp, IconDownload, IconX } from "@tabler/icons-react";
import { useState } from "react";
import { useSearchParams } from "react-router";

import { api, type Schema, useBuiltTokens, usePlatforms, useWrite } from "../../api/client";
import { Code } from "../../ui/Code";
import { Failure, Problems, Query } from "../../ui/States";
import classes from "./Platforms.module.css";

/** What tokens are written as: each platform's transforms in their order, what they do to one token, the files. */
export function Platforms({ tokens }: { tokens: Schema["TokensView"] }) {
  const platforms = usePlatforms();
  const [search, setSearch] = useSearchParams();
  const put = (key: string, value: string) =>
    setSearch(
      (s) => {
        s.set(key, value);
        return s;
      },
      { replace: true },
    );
  return (
    <Query query={platforms} what="the platforms">
      {(view) => {
        const chosen = view.platforms.find((p) => p.name === search.get("platform")) ?? view.platforms[0];
        if (!chosen) return null;
        const path = search.get("token") ?? tokens.rows.find((r) => r.type === "dimension")?.path ?? tokens.rows[0]?.path ?? "";
        return (
          <div className={classes.view}>
            <nav className={classes.list} aria-label="Platforms">
              {view.platforms.map((p) => (
                <button key={p.name} type="button" aria-current={p === chosen ? "true" : undefined} onClick={() => put("platform", p.name)}>
                  {p.name}
                  {p.own && <span className="quiet"> changed</span>}
                </button>
              ))}
            </nav>
            <PlatformView
              key={`${chosen.name} ${view.revision}`}
              view={view}
              saved={chosen}
              tokens={tokens}
              path={path}
              setPath={(p) => put("token", p)}
            />
          </div>
        );
      }}
    </Query>
  );
}

interface Props {
  view: Schema["PlatformsView"];
  saved: Schema["PlatformView"];
  tokens: Schema["TokensView"];
  path: string;
  setPath: (path: string) => void;
}

function PlatformView({ view, saved, tokens, path, setPath }: Props) {
  const { own, ...definition } = saved;
  const [platform, setPlatform] = useState<Schema["Platform"]>(definition);
  const built = useBuiltTokens(view.revision, platform, path);
  const save = useWrite(() => api.savePlatform(view.revision, platform));
  const forget = useWrite(() => api.forgetPlatform(view.revision, platform.name));
  const changed = JSON.stringify(platform) !== JSON.stringify(definition);
  const error = save.error ?? forget.error;
  return (
    <>
      <section className={classes.settings} aria-label={`${platform.name}: transforms`}>
        <header className={classes.settingsHead}>
          <h2>Transforms, in this order</h2>
          <div className={classes.actions}>
            {own && !changed && (
              <Button loading={forget.isPending} onClick={() => forget.mutate(undefined)}>
                Restore standard
              </Button>
            )}
            {changed && <Button onClick={() => setPlatform(definition)}>Discard changes</Button>}
            <Button
              variant="filled"
              disabled={!changed || (built.data?.problems.length ?? 0) > 0}
              loading={save.isPending}
              onClick={() => save.mutate(undefined)}
            >
              Save
            </Button>
          </div>
        </header>
        {error && <Failure error={error} />}
        <Transforms
          platform={platform}
          all={view.transforms}
          steps={built.data?.steps ?? []}
          change={(transforms) => setPlatform({ ...platform, transforms })}
        />
        <div className={classes.token}>
          <Select
            label="Shown for"
            searchable
            size="xs"
            data={tokens.rows.map((r) => r.path)}
            limit={60}
            value={path}
            onChange={(v) => v && setPath(v)}
            classNames={{ input: "mono" }}
          />
        </div>
        <div className={classes.options}>
          <NumberInput
            label="Px of 1 rem"
            size="xs"
            w={110}
            min={1}
            max={1000}
            value={platform.baseFontSize ?? 16}
            onChange={(v) => setPlatform({ ...platform, baseFontSize: Number(v) || 16 })}
          />
          <Switch
            size="xs"
            label="Aliases stay references"
            checked={platform.references !== "flatten"}
            onChange={(e) => setPlatform({ ...platform, references: e.currentTarget.checked ? "keep" : "flatten" })}
          />
          {platform.outputs?.some((o) => o.format === "css") && (
            <Checkbox
              size="xs"
              label="Register with @property"
              checked={platform.register ?? false}
              onChange={(e) => setPlatform({ ...platform, register: e.currentTarget.checked })}
            />
          )}
        </div>
      </section>
      <Output built={built.data} error={built.error} />
    </>
  );
}

/** The list, in order; each step says what it makes of the chosen token. */
function Transforms({
  platform,
  all,
  steps,
  change,
}: {
  platform: Schema["Platform"];
  all: Schema["Transform"][];
  steps: Schema["Step"][];
  change: (ids: string[]) => void;
}) {
  const ids = platform.transforms ?? [];
  const move = (at: number, by: number) => {
    const next = [...ids];
    const [one] = next.splice(at, 1);
    next.splice(at + by, 0, one!);
    change(next);
  };
  const first = steps[0]?.before ?? [];
  return (
    <>
      <ol className={classes.steps}>
        {first.length > 0 && (
          <li className={`mono ${classes.start}`}>
            {first.map((line) => (
              <span key={line}>{line}</span>
            ))}
          </li>
        )}
        {ids.map((id, i) => (
          <li key={`${id} ${i}`}>
            <span className={classes.step}>
              <strong className="mono">{id}</strong>
              <span className="quiet">{all.find((t) => t.id === id)?.about}</span>
              <span className={`mono ${steps[i]?.changed ? classes.changed : "quiet"}`}>
                {steps[i]?.changed ? steps[i].after?.slice(0, 4).map((line) => <span key={line}>→ {line}</span>) : "leaves it as it is"}
                {steps[i]?.changed && (steps[i].after?.length ?? 0) > 4 && <span>and {(steps[i].after?.length ?? 0) - 4} more</span>}
              </span>
            </span>
            <span className={classes.moves}>
              <Icon label={`${id} earlier`} disabled={i === 0} onClick={() => move(i, -1)}>
                <IconArrowUp size={13} />
              </Icon>
              <Icon label={`${id} later`} disabled={i === ids.length - 1} onClick={() => move(i, 1)}>
                <IconArrowDown size={13} />
              </Icon>
              <Icon label={`Without ${id}`} onClick={() => change(ids.filter((_, j) => j !== i))}>
                <IconX size={13} />
              </Icon>
            </span>
          </li>
        ))}
      </ol>
      <Select
        aria-label="Add a transform"
        placeholder="Add a transform…"
        data={all.filter((t) => !ids.includes(t.id)).map((t) => ({ value: t.id, label: t.id }))}
        value={null}
        onChange={(v) => v && change([...ids, v])}
        renderOption={({ option }) => (
          <span className={classes.option}>
            <span className="mono">{option.label}</span>
            <span className="quiet">{all.find((t) => t.id === option.value)?.about}</span>
          </span>
        )}
      />
    </>
  );
}

function Icon({
  label,
  disabled,
  onClick,
  children,
}: {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <ActionIcon variant="subtle" color="gray" c="inherit" size={22} aria-label={label} title={label} disabled={disabled} onClick={onClick}>
      {children}
    </ActionIcon>
  );
}

function Output({ built, error }: { built?: Schema["BuiltTokens"]; error: Error | null }) {
  const [name, setName] = useState("");
  const file = built?.files.find((f) => f.name === name) ?? built?.files[0];
  return (
    <section className={classes.output} aria-label="What is written">
      {error && <Failure error={error} />}
      {built && built.problems.length > 0 && (
        <div className={classes.wrong} role="alert">
          <strong>Nothing can be written so:</strong>
          <Problems list={built.problems} />
        </div>
      )}
      {file && (
        <>
          <header className={classes.outputHead}>
            <Select
              aria-label="File"
              size="xs"
              w={220}
              data={built?.files.map((f) => f.name) ?? []}
              value={file.name}
              allowDeselect={false}
              onChange={(v) => setName(v ?? "")}
              classNames={{ input: "mono" }}
            />
            <span className="quiet">
              {file.text.split("\n").length - 1} lines, {(file.text.length / 1024).toFixed(1)} KB
            </span>
            <span className={classes.push}>
              <CopyButton value={file.text}>
                {({ copied, copy }) => <Button onClick={copy}>{copied ? "Copied" : "Copy"}</Button>}
              </CopyButton>
              <Button leftSection={<IconDownload size={14} />} onClick={() => download(file.name, file.text)}>
                Download
              </Button>
            </span>
          </header>
          <Code path={file.name} text={file.text} />
        </>
      )}
    </section>
  );
}

function download(name: string, text: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type: "text/plain" }));
  link.download = name.split("/").at(-1) ?? name;
  link.click();
  URL.revokeObjectURL(link.href);
}
