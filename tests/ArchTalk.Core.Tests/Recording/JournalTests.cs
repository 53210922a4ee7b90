using System.Text;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using CsCheck;

namespace ArchTalk.Core.Tests.Recording;

public class JournalTests
{
    private static readonly Guid TakeGuid = Guid.Parse("0f8fad5b-d9cb-469f-a165-70867728950e");
    private static readonly Guid BoardGuid = Guid.Parse("7c9e6679-7425-40de-944b-e07fc1f90ae7");

    private static JournalBuilder Sample()
    {
        var builder = new JournalBuilder()
            .Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false))
            .Events(0, new BoardShown(1000, BoardGuid));
        for (var i = 0; i < 4; i++)
        {
            builder.Audio(0, i * 64, Enumerable.Range(i * 64, 64).Select(s => (short)s).ToArray());
            builder.Anchors(0, new ClockAnchor((i + 1) * 64, 1000 + ((i + 1) * 64 / 48.0)));
        }

        return builder.End();
    }

    private static Journal Read(byte[] bytes)
    {
        Journal.TryRead(bytes, out var journal).ShouldBeTrue();
        return journal!;
    }

    private static void ShouldBeTheFirst(IReadOnlyList<JournalRecord> read, IReadOnlyList<JournalRecord> written)
    {
        for (var i = 0; i < read.Count; i++)
        {
            read[i].Sequence.ShouldBe(written[i].Sequence);
            read[i].Kind.ShouldBe(written[i].Kind);
            read[i].Payload.ToArray().ShouldBe(written[i].Payload.ToArray());
        }
    }

    /// <summary>RFC 3720, B.4 (the value quoted everywhere for "123456789", from memory).</summary>
    [Fact]
    public void Crc32C_gives_the_published_check_value() =>
        Crc32C.Compute(Encoding.ASCII.GetBytes("123456789")).ShouldBe(0xE3069283u);

    /// <summary>RFC 3720, B.4: 32 bytes of zeros give the bytes aa 36 91 8a, low byte first.</summary>
    [Fact]
    public void Crc32C_of_32_zero_bytes() => Crc32C.Compute(new byte[32]).ShouldBe(0x8A9136AAu);

    [Fact]
    public void What_was_written_is_read()
    {
        var builder = Sample();
        var journal = Read(builder.ToBytes(TakeGuid));

        journal.Take.ShouldBe(TakeGuid);
        journal.Records.Count.ShouldBe(builder.Records.Count);
        journal.NextSequence.ShouldBe((uint)builder.Records.Count);
        ShouldBeTheFirst(journal.Records, builder.Records);
    }

    [Fact]
    public void Cut_off_at_any_byte_everything_before_comes_back()
    {
        var builder = Sample();
        var bytes = builder.ToBytes(TakeGuid);
        for (var length = 0; length < bytes.Length; length++)
        {
            var whole = 0;
            var end = Journal.HeaderSize;
            while (whole < builder.Records.Count && end + builder.Records[whole].Size <= length)
            {
                end += builder.Records[whole++].Size;
            }

            if (length < Journal.HeaderSize)
            {
                Journal.TryRead(bytes[..length], out _).ShouldBeFalse();
                continue;
            }

            var journal = Read(bytes[..length]);
            journal.Records.Count.ShouldBe(whole);
            journal.ValidLength.ShouldBe(end);
        }
    }

    [Fact]
    public void A_flipped_bit_anywhere_loses_nothing_before_it()
    {
        var builder = Sample();
        var clean = builder.ToBytes(TakeGuid);
        Gen.Select(Gen.Int[Journal.HeaderSize, clean.Length - 1], Gen.Int[0, 7]).Sample((position, bit) =>
        {
            var bytes = (byte[])clean.Clone();
            bytes[position] ^= (byte)(1 << bit);
            var untouched = 0;
            var end = Journal.HeaderSize;
            while (end + builder.Records[untouched].Size <= position)
            {
                end += builder.Records[untouched++].Size;
            }

            var journal = Read(bytes);
            journal.Records.Count.ShouldBe(untouched);
            ShouldBeTheFirst(journal.Records, builder.Records);
        });
    }

    [Fact]
    public void Records_sent_twice_are_kept_once()
    {
        var builder = Sample();
        using var bytes = new MemoryStream();
        bytes.Write(Journal.Header(TakeGuid));
        foreach (var record in builder.Records)
        {
            bytes.Write(record.ToBytes());
            bytes.Write(record.ToBytes());
            bytes.Write(builder.Records[0].ToBytes());
        }

        var journal = Read(bytes.ToArray());
        journal.Records.Count.ShouldBe(builder.Records.Count);
        journal.ValidLength.ShouldBe((int)bytes.Length);
    }

    [Fact]
    public void In_any_order_the_records_before_the_first_gap_come_back()
    {
        var records = Sample().Records;
        Gen.Shuffle(Enumerable.Range(0, records.Count).ToArray()).Sample(order =>
        {
            using var bytes = new MemoryStream();
            bytes.Write(Journal.Header(TakeGuid));
            Array.ForEach(order, i => bytes.Write(records[i].ToBytes()));

            var inOrder = order.TakeWhile((index, place) => index == place).Count();
            var journal = Read(bytes.ToArray());
            journal.Records.Count.ShouldBe(inOrder);
            ShouldBeTheFirst(journal.Records, records);
        });
    }

    [Fact]
    public void Another_record_under_a_used_number_ends_the_reading()
    {
        var builder = Sample();
        using var bytes = new MemoryStream();
        bytes.Write(builder.ToBytes(TakeGuid));
        bytes.Write(new JournalRecord(JournalRecordKind.Pause, 1, 3, JournalBuilder.PointPayload(new(0, 9))).ToBytes());
        bytes.Write(new JournalRecord(JournalRecordKind.End, 1, (uint)builder.Records.Count, default).ToBytes());

        Read(bytes.ToArray()).Records.Count.ShouldBe(builder.Records.Count);
    }

    [Fact]
    public void A_record_of_a_later_release_is_kept_and_what_follows_it_is_read()
    {
        var records = Sample().Records;
        byte[] bytes =
        [
            .. Journal.Header(TakeGuid), .. records[0].ToBytes(), .. records[1].ToBytes(),
            .. new JournalRecord((JournalRecordKind)77, 1, 2, new byte[] { 1, 2, 3 }).ToBytes(),
            .. new JournalRecord(JournalRecordKind.Audio, 1, 3, records[2].Payload).ToBytes(),
        ];

        var journal = Read(bytes);
        journal.Records.Count.ShouldBe(4);
        journal.ValidLength.ShouldBe(bytes.Length, "nothing of it is cut off");
        JournalPayloads.IsValid(journal.Records[2]).ShouldBeTrue();
        Takes.Log(journal).Length.ShouldBe(new Duration(64));
    }

    [Fact]
    public void A_declared_loss_lets_the_take_go_on()
    {
        var records = Sample().Records;
        using var bytes = new MemoryStream();
        bytes.Write(Journal.Header(TakeGuid));
        bytes.Write(records[0].ToBytes());
        bytes.Write(records[1].ToBytes());
        bytes.Write(new JournalRecord(JournalRecordKind.Lost, 2, 3, new byte[] { 2, 0, 0, 0 }).ToBytes());
        bytes.Write(records[4].ToBytes());

        var journal = Read(bytes.ToArray());
        journal.Records.Count.ShouldBe(4);
        journal.NextSequence.ShouldBe(5u);
    }

    [Fact]
    public void Random_bytes_are_never_a_journal_and_never_an_error() => Gen.Byte.Array[0, 300].Sample(noise =>
    {
        byte[] bytes = [.. Journal.Header(TakeGuid), .. noise];
        Read(bytes).Records.ShouldBeEmpty();
        Journal.TryRead(noise, out _).ShouldBeFalse();
    });

    [Fact]
    public void Payloads_that_are_not_what_they_say_are_not_valid()
    {
        JournalPayloads.IsValid(new(JournalRecordKind.Events, 1, 0, "\0\0\0\0{}"u8.ToArray())).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Events, 1, 0, "\0\0\0\0{"u8.ToArray())).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Audio, 1, 0, new byte[13])).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Anchors, 1, 0, new byte[5])).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Segment, 1, 0, "[]"u8.ToArray())).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.End, 1, 0, new byte[1])).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Audio, 1, 0, JournalBuilder.AudioPayload(0, long.MaxValue - 1, [1, 2]))).ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Pause, 1, 0, JournalBuilder.PointPayload(new(0, JournalPayloads.LastSample + 1))))
            .ShouldBeFalse();
        JournalPayloads.IsValid(new(JournalRecordKind.Anchors, 1, 0, JournalBuilder.AnchorsPayload(0, [new ClockAnchor(long.MaxValue, 5)])))
            .ShouldBeFalse();
        Sample().Records.ShouldAllBe(r => JournalPayloads.IsValid(r));
    }
}
