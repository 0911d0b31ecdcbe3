package react

// Native gives tests the attributes React is taken to give elements.
func Native() map[string][]string { return native }
