/** What to test again after a change, and why. */
export { NEW_TEST, testAgain, type Retest, type TestAgain } from './retest'
export { dueTests, NEVER_PASSED, type Due, type Passed } from './due'
export { testsOfNewBoard } from './newBoard'
