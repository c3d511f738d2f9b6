/** A day of the calendar, typed or picked. */
interface Props {
  id: string;
  label: string;
  value: string;
  onChange: (day: string) => void;
}
export const Day = ({ id, label, value, onChange }: Props) => (
  <div className="field">
    <label htmlFor={id}>{label}</label>
    <input id={id} type="date" className="mono" value={value} onChange={(e) => onChange(e.target.value)} />
  </div>
);
