using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Demo;

/// <summary>
/// The third lesson, recorded on a free afternoon and not refined yet: a false start, slips, long silences, a question without a stop, a
/// stretch with the head turned away, a cough, a humming room, chatter after the end.
/// </summary>
internal static class BridgeLesson
{
    public static readonly Term[] Terms =
    [
        Word("span", "/spæn/", "The distance from one support of a bridge to the next."),
        Word("deck", "/dek/", "The part of a bridge on which one walks or drives."),
        Word("pier", "/pɪə/", "A support that stands in the water or in the valley."),
        Word("cable", "/ˈkeɪb(ə)l/", "A rope of steel wires; it can be pulled, and it can't be pushed."),
        Word("anchor", "/ˈæŋkə/", "The heavy block in the ground that holds the end of a cable."),
    ];

    /// <summary>Lies over what the chain does until it was asked for.</summary>
    public static readonly CoverItem ChainCover = new()
    {
        Id = Guid.Parse("6f1c2a52-7f0a-4f0e-9a55-1f3f6f6c1b02"), X = 1325, Y = 780, Width = 160, Height = 54, Text = "?",
    };

    /// <summary>The boards that are written on, after the title and the three ways across.</summary>
    public static readonly string[] EmptyBoards = ["Three lines", "A sum", "Where the force goes", "When the load moves", "Look for yourself"];

    /// <summary>Boards: 0 title, 1 three ways across, then <see cref="EmptyBoards"/>.</summary>
    public static async Task PerformAsync(Performance p)
    {
        await OpenAsync(p);
        await CompareAsync(p);
        await WriteDownAsync(p);
        await CalculateAsync(p);
        await FollowTheForceAsync(p);
        await MoveTheLoadAsync(p);
        await GiveTheTaskAsync(p);
    }

    private static async Task OpenAsync(Performance p)
    {
        p.Show(0);
        p.Wait(2_400);
        await p.SayAsync("So, is this thing on? I think so.");
        p.Wait(4_200);
        await p.SayAsync("Hello again, and welcome to the last lesson on how buildings stand.");
        await p.SayAsync("You know arches now, and you know domes. Today we cross a river.", p.Circle(896, 520, 640, 70, 2_600));
        await p.SayAsync("We look at three things. What a flat bridge does.", p.Circle(110, 270, 100, 96, 1_900));
        await p.SayAsync("What a curve changes.", p.Circle(110, 390, 100, 96, 300));
        await p.SayAsync("And the question at the end: is it better to curve up, or to curve down?", p.Circle(110, 510, 100, 96, 900));
        p.Wait(5_500);
    }

    private static async Task CompareAsync(Performance p)
    {
        p.Show(1);
        await p.SayAsync("Here are three bridges over the same river. The span is the same for all of them.", Said(p, "span", 3_600));
        await p.SayAsync("The first one is flat. A flat bridge is a beam.", p.Underline(200, 272, 180, 400));
        await p.SayAsync("Stand in the middle of it, and it sags.",
            p.Line("vermilion", "broad", 900, (70, 500), (180, 522), (290, 530), (400, 522), (510, 500)));
        p.Wait(500);
        await p.SayAsync("Its upper side is stretched, and its underside is squeezed.", p.Note("later", 3_600, "the other way round"));
        p.Wait(900);
        await p.SayAsync("No, I said that the wrong way round. Its upper side is squeezed, and its underside is stretched.");
        await p.SayAsync("Stone doesn't like to be stretched. That is why no flat stone bridge is long.", p.Underline(150, 832, 290, 2_600));
        p.Wait(2_900);
        await p.SayAsync("The second one curves up. This is our arch again.", p.Underline(620, 272, 260, 500));
        await p.SayAsync("The deck stands on the arch, and the arch squeezes all its stones.", Said(p, "deck", 500),
            p.Line("blue", "broad", 1_900, (648, 620), (690, 520), (800, 474), (910, 520), (952, 620)));
        await p.SayAsync("At both ends it pushes outward, against the banks.", p.Arrow("vermilion", 700, (640, 610), (580, 660)),
            p.Arrow("vermilion", 1_500, (960, 610), (1020, 660)));
        p.Wait(3_400);
        await p.SayAsync("And the third one curves down. Think of the chain between two nails, from our first lesson.",
            p.Underline(1150, 272, 330, 700));
        await p.SayAsync("What happens to every link of this chain?");
        p.Wait(5_200);
        await p.SayAsync("Right. It is pulled.", p.Uncover(ChainCover.Id, 100), p.Underline(1190, 832, 270, 1_600));
        p.Wait(2_500);
        await p.SayAsync("A cable of steel can be pulled as hard as you like. But it can't be pushed at all.", Said(p, "cable", 400));
        p.Cough();
        p.Wait(1_900);
        await p.SayAsync("So a bridge that curves down is made of steel, and a bridge that curves up may be made of stone.");
        await p.SayAsync("Both have the same shape. One is the other, turned upside down.",
            p.Line("green", "broad", 600, (1118, 404), (1210, 470), (1310, 482), (1410, 470), (1502, 404)));
        p.Wait(6_500);
    }

    private static async Task WriteDownAsync(Performance p)
    {
        p.Show(2);
        await p.SayAsync("Let us write down what we have found. Take your book, please.");
        p.Wait(300);
        p.Silently(p.Write("curved up: squeezed, stone", 120, 200, 62, 600));
        await p.SayAsync("Curved up means squeezed, and that is a matter for stone.");
        p.Silently(p.Write("curved down: pulled, steel", 120, 340, 62, 600));
        await p.SayAsync("Curved down means pulled, and that is a matter for steel.");
        await p.MurmurAsync("Where did I put the other page? It must be here somewhere, under the workbooks. Let me look for it.");
        p.Wait(2_600);
        await p.SayAsync("And a flat bridge?");
        p.Silently(p.Write("flat: bent, short", 120, 480, 62, 400));
        await p.SayAsync("It is bent, so it has to be short. Or it needs many piers.", Said(p, "pier", 3_300));
        await p.SayAsync("You must know these three lines.", p.Line("vermilion", "medium", 300, (116, 505), (500, 512), (880, 505)));
        p.Wait(4_000);
    }

    private static async Task CalculateAsync(Performance p)
    {
        p.Show(3);
        await p.SayAsync("Now a sum. Our river is forty metres wide, and the chain hangs ten metres down.");
        p.Silently(p.Write("span 40 m", 120, 180, 60, 500), p.Write("height 10 m", 120, 290, 60, 300));
        await p.SayAsync("The load is two hundred kilonewtons.");
        p.Silently(p.Write("load 200 kN", 120, 400, 60, 400));
        p.Wait(500);
        await p.SayAsync("At its top the chain pulls with the load times the height, divided by eight times the span.",
            p.Note("later", 5_200, "span and height"));
        p.Wait(1_100);
        await p.SayAsync("I mixed them up. It is the load times the span, divided by eight times the height.");
        p.Silently(p.Write("200 kN * 40 m", 760, 200, 60, 500, "blue"), p.Line("blue", "medium", 200, (750, 240), (1280, 240)),
            p.Write("8 * 10 m", 850, 320, 60, 300, "blue"));
        await p.SayAsync("Two hundred times forty is eight thousand. Eight times ten is eighty.");
        await p.SayAsync("How much is that? Work it out before I write it down.");
        p.Wait(7_000);
        await p.SayAsync("One hundred kilonewtons.", p.Write("= 100 kN", 1310, 262, 60, 200, "vermilion"));
        await p.SayAsync("As much as ten small cars, hanging on one end of the chain.");
        p.Wait(3_100);
        await p.SayAsync("If the chain hangs only five metres down, it pulls twice as hard. A flat chain pulls hardest of all.",
            p.Write("5 m: 200 kN", 760, 470, 60, 1_800, "blue"));
        await p.SayAsync("And the same is true of the arch. A flat arch pushes hardest.");
        await p.SayAsync("That is why bridges are curved, and curved a lot, when there is room for it.");
        p.Silently(p.Write("more curve, less force", 120, 660, 70, 500, "green"));
        await p.SayAsync("More curve, less force. That is the sentence of today.",
            p.Line("vermilion", "medium", 300, (116, 690), (500, 697), (960, 690)));
        p.Wait(3_800);
    }

    private static async Task FollowTheForceAsync(Performance p)
    {
        p.Show(4);
        await p.SayAsync("One question is left. Where does the force go, at the end of the bridge? It can't just stop there.");
        p.Silently(p.Line("blue", "broad", 400, (140, 430), (240, 300), (400, 250), (560, 300), (660, 430)),
            p.Line("blue-black", "medium", 300, (40, 430), (760, 430)));
        await p.SayAsync("Here is the arch. It pushes outward, to the left and to the right.", p.Arrow("vermilion", 600, (150, 440), (70, 520)),
            p.Arrow("vermilion", 1_700, (650, 440), (730, 520)));
        await p.SayAsync("Where there is rock on both sides, all is well. Rock doesn't move.", p.Write("rock: good", 60, 620, 54, 700, "green"));
        p.Wait(2_800);
        await p.SayAsync("But in a flat country there is only mud, and mud gives way.", p.Write("mud: bad", 60, 720, 54, 1_500, "vermilion"));
        p.Wait(3_700);
        await p.SayAsync("So you tie the two ends of the arch together, with one long rod under the deck.",
            p.Line("green", "broad", 2_300, (142, 450), (400, 452), (658, 450)));
        await p.SayAsync("Now the rod is pulled, and the mud is left in peace.");
        await p.SayAsync("And what is the rod made of? You know it already. Of steel, because it is pulled.");
        p.Wait(5_400);
        await p.SayAsync("Now the bridge that hangs. It needs two towers.", p.Line("blue-black", "broad", 1_400, (1000, 250), (1000, 560)),
            p.Line("blue-black", "broad", 200, (1360, 250), (1360, 560)));
        await p.SayAsync("The cable runs over the towers, and the deck hangs on it.",
            p.Line("green", "broad", 300, (1000, 250), (1090, 370), (1180, 410), (1270, 370), (1360, 250)),
            p.Line("blue-black", "medium", 200, (860, 470), (1500, 470)));
        p.Silently(p.Line("blue-black", "fine", 200, (1060, 335), (1060, 470)), p.Line("blue-black", "fine", 150, (1120, 388), (1120, 470)),
            p.Line("blue-black", "fine", 150, (1180, 410), (1180, 470)), p.Line("blue-black", "fine", 150, (1240, 388), (1240, 470)),
            p.Line("blue-black", "fine", 150, (1300, 335), (1300, 470)));
        await p.SayAsync("The towers are squeezed, and the cable is pulled.");
        await p.SayAsync("And at the top of the tower the cable ends.", p.Note("later", 2_100, "the cable goes on"));
        p.Wait(1_000);
        await p.SayAsync("No, of course it doesn't. It goes on, down to the ground behind the tower.",
            p.Line("green", "broad", 1_800, (1000, 250), (850, 540)), p.Line("green", "broad", 200, (1360, 250), (1510, 540)));
        await p.SayAsync("There it ends in a block of concrete. This block is called the anchor.", Said(p, "anchor", 3_900),
            p.Circle(850, 560, 46, 40, 1_200), p.Circle(1510, 560, 46, 40, 300));
        await p.SayAsync("The anchor is as heavy as a house. It has to be, because half of the bridge hangs on it.");
        p.Silently(p.Write("arch: pushes", 60, 830, 54, 500), p.Write("cable: pulls", 930, 760, 54, 500));
        await p.SayAsync("So an arch pushes the banks apart, and a cable pulls its anchors together.");
        p.Wait(4_600);
    }

    private static async Task MoveTheLoadAsync(Performance p)
    {
        p.Show(5);
        await p.SayAsync("Until now the load was the same everywhere. But a lorry is a load that moves.");
        p.Silently(p.Line("blue", "broad", 300, (120, 420), (240, 280), (420, 226), (600, 280), (720, 420)),
            p.Line("green", "broad", 300, (900, 200), (1020, 340), (1200, 394), (1380, 340), (1500, 200)));
        await p.SayAsync("On the left we have an arch of stone, and on the right we have a cable.");
        p.Wait(2_700);
        await p.SayAsync("The arch weighs a thousand tons. What is one lorry of twenty tons to it?", p.Write("1000 t + 20 t", 150, 560, 60, 900));
        await p.SayAsync("Nearly nothing. So the arch keeps its shape.");
        p.Wait(6_100);
        await p.SayAsync("The cable is light. The lorry comes, and the cable changes its shape under it.",
            p.Line("vermilion", "medium", 2_400, (900, 200), (1030, 430), (1200, 370), (1380, 286), (1500, 200)));
        await p.SayAsync("Try it at home. Hang a string between two chairs, and press on it with one finger.");
        p.Cough();
        p.Wait(2_100);
        await p.SayAsync("You see how the rest of the string goes up, where you don't press.", p.Circle(1350, 310, 150, 120, 900));
        p.Silently(p.Write("heavy: calm", 150, 680, 60, 500, "blue"), p.Write("light: moves", 930, 680, 60, 500, "green"));
        p.Wait(2_900);
        await p.SayAsync("Nobody likes to walk over a bridge that moves up and down. What can be done?");
        p.Wait(6_600);
        await p.SayAsync("The deck is made stiff. A stiff deck shares the load out, among many ropes.",
            p.Line("blue-black", "broad", 900, (880, 520), (1520, 520)));
        await p.SayAsync("The wind is a load that moves, too. It has broken bridges which were built for lorries.");
        await p.MurmurAsync("Somebody is at the door. One moment, please. No, not now, I am recording a lesson. Thank you.");
        p.Wait(3_300);
        await p.SayAsync("So a light bridge needs a stiff deck.", p.Write("light bridge, stiff deck", 170, 820, 64, 500, "vermilion"));
        p.Wait(4_200);
    }

    private static async Task GiveTheTaskAsync(Performance p)
    {
        p.Show(6);
        await p.SayAsync("Now it is your turn. Look for a bridge where you live, and ask it three questions.");
        p.Silently(p.Write("1. flat, up or down?", 140, 200, 62, 500));
        await p.SayAsync("Is it flat, does it curve up, or does it curve down?");
        p.Silently(p.Write("2. squeezed or pulled?", 140, 330, 62, 500));
        await p.SayAsync("Which of its parts are squeezed, and which of them are pulled? Draw an arrow for each.");
        p.Silently(p.Write("3. where to?", 140, 460, 62, 500));
        await p.SayAsync("And where does the force go in the end? Into rock, into a rod, or into an anchor?");
        p.Wait(3_600);
        await p.SayAsync("I did it for the small bridge behind our house. It is flat, it has one pier, and it is made of wood.",
            p.Write("wood, 6 m, 1 pier", 140, 660, 56, 2_600, "blue"));
        await p.SayAsync("It is eight metres long.", p.Note("later", 1_400, "six metres"));
        p.Wait(1_200);
        await p.SayAsync("Six metres, I mean, as I have written it here.");
        await p.SayAsync("With the pier in the middle, each half is only three metres long. So it may be flat.");
        p.Wait(7_300);
        await p.SayAsync("Your task is in the box, as always. Thank you for watching, and goodbye.");
        p.Wait(6_000);
        await p.SayAsync("Now where is the button to end it?");
        p.Wait(2_200);
    }

    private static Action<double> Said(Performance p, string word, double afterMs) => p.Term(Terms.Single(t => t.Word == word), afterMs);

    private static Term Word(string word, string reading, string meaning) => new(Guid.CreateVersion7(), word, reading, meaning, "en");
}
