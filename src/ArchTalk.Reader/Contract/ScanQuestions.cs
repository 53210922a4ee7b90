using ArchTalk.Core.Boards.Scans;

namespace ArchTalk.Reader.Contract;

/// <summary>Says what would put a photographed page right.</summary>
public sealed record ProposeScan(string File) : Question<ScanSettings>;

/// <summary>Writes the copies of a page as the settings make it.</summary>
public sealed record MakeScan(string File, ScanSettings Settings, string Folder) : Question<PictureFile[]>;

/// <summary>Answers where the page as the settings make it is divided into two, as a share of its width.</summary>
public sealed record FindGutter(string File, ScanSettings Settings) : Question<double>;
