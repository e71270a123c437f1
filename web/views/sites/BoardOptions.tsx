import { boardsIn } from '../../../core/boards'

/** Every board that ships, as a choice. */
export const BoardOptions = () =>
  boardsIn({ profiles: { boards: [], modules: [] } }).map(({ id, name }) => (
    <option key={id} value={id}>
      {name}
    </option>
  ))
