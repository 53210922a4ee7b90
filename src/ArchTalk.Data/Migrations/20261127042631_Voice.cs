using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace ArchTalk.Data.Migrations
{
    /// <inheritdoc />
    public partial class Voice : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "VoiceGainDb",
                table: "Lessons",
                type: "REAL",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "VoiceShiftLu",
                table: "Lessons",
                type: "REAL",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "VoiceGainDb",
                table: "Lessons");

            migrationBuilder.DropColumn(
                name: "VoiceShiftLu",
                table: "Lessons");
        }
    }
}
