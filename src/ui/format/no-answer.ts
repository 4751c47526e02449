/** Said where an action of the server fails on its way: the store is as it was. */
export const NO_ANSWER = 'The server did not answer. Nothing was changed; try again.'
