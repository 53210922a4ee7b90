using System.Text.Json;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Boards;

/// <summary>The items as they begin, as the pages get them.</summary>
public static class ItemTemplates
{
    public static readonly JsonElement All = JsonSerializer.SerializeToElement(
        new
        {
            Text = (Item)NewItems.Text,
            Formula = (Item)NewItems.Formula,
            Table = (Item)NewItems.Table,
            Label = (Item)NewItems.Label,
            Cover = (Item)NewItems.Cover,
            Blank = (Item)NewItems.Blank,
            Figures = NewItems.Figures.ToDictionary(f => f.Key, f => (Item)f.Value),
            NewItems.WidestTable,
            NewItems.TableColumn,
        }, SectionService.Json);
}
