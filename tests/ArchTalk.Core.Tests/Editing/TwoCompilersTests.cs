using CsCheck;

namespace ArchTalk.Core.Tests.Editing;

public class TwoCompilersTests
{
    // Hundreds here, and tens of thousands in bench/.
    [Fact]
    public void Both_give_the_same_scenes() => Gen.Int.Sample(seed =>
        TwoCompilers.Difference(seed) is not { } difference ? true : throw new InvalidOperationException($"Seed {seed}: {difference}"), iter: 500);
}
