using System.Text.Json.Serialization;

namespace ArchTalk.Reader.Contract;

/// <summary>
/// What the server can ask the program in the box, one line of JSON each. Files and folders are named as the box sees them; what
/// is written is named in the answer by its file name alone.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "ask")]
[JsonDerivedType(typeof(CopyPicture), "copyPicture")]
[JsonDerivedType(typeof(MakeItemPicture), "makeItemPicture")]
[JsonDerivedType(typeof(OpenPdf), "openPdf")]
[JsonDerivedType(typeof(ReadPage), "readPage")]
[JsonDerivedType(typeof(MeasurePage), "measurePage")]
[JsonDerivedType(typeof(ReadDeck), "readDeck")]
[JsonDerivedType(typeof(CleanSvg), "cleanSvg")]
[JsonDerivedType(typeof(ProposeScan), "proposeScan")]
[JsonDerivedType(typeof(MakeScan), "makeScan")]
[JsonDerivedType(typeof(FindGutter), "findGutter")]
[JsonDerivedType(typeof(JoinPictures), "joinPictures")]
[JsonDerivedType(typeof(CoverPicture), "coverPicture")]
[JsonDerivedType(typeof(DrawForReading), "drawForReading")]
[JsonDerivedType(typeof(ReadPixels), "readPixels")]
[JsonDerivedType(typeof(RefuseCompound), "refuseCompound")]
public abstract record Question;

/// <typeparam name="TAnswer">What is answered.</typeparam>
public abstract record Question<TAnswer> : Question;
