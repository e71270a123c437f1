/** Parts whose data no port of the firmware reads or writes by itself, and what of them is the maker's to write. */
export const UNDRIVEN: Readonly<Record<string, string>> = {
  'temperature-humidity': 'reading the sensor',
  'light-sensor': 'reading the sensor',
  'small-display': 'writing to the display',
  buzzer: 'sounding the buzzer',
}
