using Xunit.Sdk;
using Xunit.v3;

// Browsers, servers and encoders share two cores: one at a time keeps what is measured comparable.
[assembly: Parallelization(Mode = ParallelMode.None)]
