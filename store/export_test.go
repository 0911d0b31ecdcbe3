package store

// TakeUp begins readings again of which nothing was heard for a time.
var TakeUp = (*Database).takeUp
