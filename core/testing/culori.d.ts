/** A reference library of the tests, which carries no types. */
declare module 'culori'
