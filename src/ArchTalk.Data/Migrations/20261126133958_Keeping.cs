using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace ArchTalk.Data.Migrations
{
    /// <inheritdoc />
    public partial class Keeping : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "IsFound",
                table: "Takes",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            // Earlier releases could leave two current states behind; the later one is what was shown last.
            migrationBuilder.Sql(
                """
                UPDATE "SectionStates" SET "IsCurrent" = 0 WHERE "IsCurrent" AND "Id" NOT IN
                    (SELECT MAX("Id") FROM "SectionStates" WHERE "IsCurrent" GROUP BY "LessonId", "BoardId", "Kind");
                """);

            // Lossless copies beside the journals are no longer made.
            migrationBuilder.Sql("DELETE FROM \"Jobs\" WHERE \"Kind\" = 1;");

            migrationBuilder.CreateIndex(
                name: "IX_SectionStates_LessonId_BoardId_Kind",
                table: "SectionStates",
                columns: new[] { "LessonId", "BoardId", "Kind" },
                unique: true,
                filter: "\"IsCurrent\"");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_SectionStates_LessonId_BoardId_Kind",
                table: "SectionStates");

            migrationBuilder.DropColumn(
                name: "IsFound",
                table: "Takes");
        }
    }
}
