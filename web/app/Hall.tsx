import { Provider } from 'react-redux'
import { store } from '../store/store'
import { Shell } from './Shell'

/** The hall of a site with the store behind it. */
export const Hall = () => (
  <Provider store={store}>
    <Shell />
  </Provider>
)
