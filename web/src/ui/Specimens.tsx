'use client';
/** Every control of the house on one page, for those who build with them: see docs/controls.md. */
import { useState, type ReactNode } from 'react';
import * as z from 'zod';
import { Button, ToggleButton } from './Button';
import { Checkbox } from './Checkbox';
import { Collapsible } from './Collapsible';
import { ColourField } from './ColourField';
import { ContextMenu } from './ContextMenu';
import { DayField } from './DayField';
import { Confirm, Dialog } from './Dialog';
import { Field } from './Field';
import { FileButton } from './FileDrop';
import { LineForm } from './LineForm';
import { Menu } from './Menu';
import { NumberField } from './NumberField';
import { Picker } from './Picker';
import { Popover } from './Popover';
import { Progress } from './Progress';
import { RadioGroup } from './RadioGroup';
import { ScrollArea } from './ScrollArea';
import { choicesOf, Select } from './Select';
import { SeverityMark } from './SeverityMark';
import { Slider } from './Slider';
import { Switch } from './Switch';
import { Table } from './Table';
import { TabNames, Tabs, TabView } from './Tabs';
import { Text } from './Text';
import { AnyOf, OneOf } from './ToggleGroup';
import { Toolbar, ToolbarLine } from './Toolbar';

const STARTS = choicesOf({ recto: 'on a right-hand page', verso: 'on a left-hand page', any: 'anywhere' });
const HARBOURS = ['Anselport', 'Cold Quay', 'Dunmarsh', 'Ferrow', 'Highwater', 'Lowmere', 'Pellmouth'].map(
  (name) => ({ value: name, name }),
);
const TIDES = [
  { name: 'Morning', height: 4.2 },
  { name: 'Noon', height: 1.1 },
  { name: 'Evening', height: 3.9 },
];
const none = (): void => undefined;

export function Specimens() {
  const [on, setOn] = useState(true);
  const [start, setStart] = useState('recto');
  const [harbour, setHarbour] = useState('Pellmouth');
  const [view, setView] = useState('spreads');
  const [marks, setMarks] = useState<string[]>(['strong']);
  const [width, setWidth] = useState(60);
  const [ground, setGround] = useState('#1c5a52');
  const [day, setDay] = useState<Date | null>(null);
  const [side, setSide] = useState('inside');
  const [count, setCount] = useState(3);
  const [open, setOpen] = useState(false);
  const flip = (mark: string): void =>
    setMarks(marks.includes(mark) ? marks.filter((m) => m !== mark) : [...marks, mark]);
  return (
    <main className="h-dvh overflow-auto" tabIndex={0} aria-label="Controls">
      <h1 className="px-6 pt-5 font-serif text-[22px]">Controls</h1>
      <div className="grid grid-cols-4 gap-x-8 gap-y-5 px-6 py-4 max-[1199px]:grid-cols-2">
        <Shown name="Button">
          <span className="flex gap-2">
            <Button kind="primary">Make</Button>
            <Button tip="Shown when pointed at">Plain</Button>
            <Button kind="quiet">Quiet</Button>
          </span>
          <span className="flex gap-2">
            <Button disabled>Not now</Button>
            <ToggleButton pressed={on} onToggle={() => setOn(!on)}>
              Stays pressed
            </ToggleButton>
          </span>
        </Shown>
        <Shown name="Select">
          <Select label="Starts" value={start} choices={STARTS} onChoose={setStart} className="w-full" />
          <Select
            label="None chosen"
            value={null}
            choices={STARTS}
            onChoose={none}
            placeholder="Choose one"
          />
        </Shown>
        <Shown name="Picker, for long lists">
          <Picker
            label="Harbour"
            value={harbour}
            choices={HARBOURS}
            onChoose={setHarbour}
            className="w-full"
          />
        </Shown>
        <Shown name="Menu, context menu">
          <span className="flex gap-2">
            <Menu label="Insert" items={[{ name: 'Note', keys: 'Ctrl+Alt+N', run: none }]} />
            <ContextMenu items={[{ name: 'Rename', keys: 'F2', run: none }]} onOpen={none}>
              <span className="border border-dashed border-edge px-3 py-1">Right button here</span>
            </ContextMenu>
          </span>
        </Shown>
        <Shown name="Checkbox, switch">
          <Checkbox label="Shows its number" hint="In the contents too" on={on} onSet={setOn} />
          <Checkbox label="Not now" on={false} onSet={none} disabled />
          <Switch
            label="A lane"
            on={on}
            onSet={setOn}
            className="h-7 border border-edge px-3 data-[state=checked]:border-spruce data-[state=checked]:text-spruce"
          >
            {on ? 'carried' : 'left out'}
          </Switch>
        </Shown>
        <Shown name="Radio group">
          <RadioGroup label="Starts" value={start} choices={STARTS} onChoose={setStart} />
        </Shown>
        <Shown name="Toggle groups">
          <span className="flex gap-3">
            <OneOf
              label="View"
              value={view}
              choices={[
                { value: 'spreads', name: 'Spreads' },
                { value: 'pages', name: 'Pages' },
              ]}
              onChoose={setView}
            />
            <AnyOf
              label="Marks"
              values={marks}
              choices={[
                { value: 'emphasis', name: 'Emphasis', className: 'italic' },
                { value: 'strong', name: 'Strong' },
              ]}
              onChoose={flip}
            />
          </span>
        </Shown>
        <Shown name="Slider">
          <Slider
            label="Width"
            least={10}
            most={100}
            step={5}
            value={width}
            onCommit={setWidth}
            shown={(n) => `${n} %`}
          />
        </Shown>
        <Shown name="Text, number">
          <Field label="Title" hint="Kept when you leave it">
            <Text value="The Salt Clerk" onCommit={none} />
          </Field>
          <span className="flex items-center gap-2">
            <NumberField label="Lines" className="w-20" least={1} most={9} value={count} onSet={setCount} />
            lines
          </span>
        </Shown>
        <Shown name="Line and its button">
          <LineForm
            label="Name of the version"
            heading
            schema={z.string().min(3, 'At least three letters.')}
            value="As"
            action="Name it"
            onSend={() => Promise.resolve(true)}
          />
        </Shown>
        <Shown name="Colour, day, file">
          <ColourField label="Ground" value={ground} onCommit={setGround} />
          <DayField
            label="Day"
            none="Any day"
            value={day}
            days={[new Date(2026, 4, 2), new Date(2026, 4, 9)]}
            onChoose={setDay}
          />
          <div>
            <FileButton label="A picture" endings={['image/png']} onFiles={none}>
              From a file
            </FileButton>
          </div>
        </Shown>
        <Shown name="Dialogs">
          <span className="flex gap-2">
            <Dialog
              title="A sheet"
              open={open}
              onOpenChange={setOpen}
              trigger={<Button>Open a sheet</Button>}
            >
              Whatever is to be done there.
            </Dialog>
            <Confirm
              question="Delete the name?"
              consequence="Undo can’t bring it back."
              action="Delete"
              onConfirm={none}
            >
              <Button>Ask first</Button>
            </Confirm>
          </span>
          <Popover label="More" trigger={<Button className="h-7">3 findings</Button>}>
            A few more words.
          </Popover>
        </Shown>
        <Shown name="Progress, findings">
          <Progress stage="Setting the pages" share={0.62} />
          <span className="flex gap-4">
            <SeverityMark severity="blocker" />
            <SeverityMark severity="caution" />
            <SeverityMark severity="note" />
          </span>
        </Shown>
        <Shown name="Collapsible, scroll area">
          <Collapsible heading="The rest of the settings">Some more of them.</Collapsible>
          <ScrollArea label="Harbours" className="h-20 border border-rule" inside="px-2">
            {HARBOURS.map((h) => (
              <p key={h.value}>{h.name}</p>
            ))}
          </ScrollArea>
        </Shown>
        <Shown name="Tabs">
          <Tabs value={side} onChoose={setSide}>
            <TabNames
              label="Sides"
              names={[
                ['inside', 'Inside'],
                ['cover', 'Cover'],
              ]}
            />
            <TabView of={side}>
              <p className="pt-2">
                {side === 'inside' ? 'The pages of the book.' : 'Back, spine and front.'}
              </p>
            </TabView>
          </Tabs>
        </Shown>
        <Shown name="Table, sorted by its heads">
          <Table
            columns={[
              { id: 'tide', name: 'Tide', heads: true, sortBy: (t) => t.name, cell: (t) => t.name },
              {
                id: 'height',
                name: 'Metres',
                right: true,
                sortBy: (t) => t.height,
                cell: (t) => t.height,
              },
            ]}
            rows={TIDES}
            keyOf={(t) => t.name}
          />
        </Shown>
      </div>
      <Toolbar label="A toolbar" className="gap-x-2">
        <Button className="h-7 px-2">One stop</Button>
        <Button className="h-7 px-2">of the Tab key</Button>
        <ToolbarLine />
        <OneOf
          label="Size"
          value={view}
          choices={[
            { value: 'spreads', name: 'Spreads' },
            { value: 'pages', name: 'Pages' },
          ]}
          onChoose={setView}
        />
      </Toolbar>
    </main>
  );
}

function Shown({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section aria-label={name} className="space-y-2">
      <h2 className="column-head border-b border-rule pb-1">{name}</h2>
      {children}
    </section>
  );
}
