/** The topic scheme: what the controllers and everything around them say to each other. */
export { RESERVED_LEVELS, subscriptionsOf, topicPrefix, topics, watchTopic } from './scheme'
export { SOURCE_WORDS, stateSaid, type StateSaid } from './said'
