using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace ArchTalk.Data.Migrations
{
    /// <inheritdoc />
    public partial class Preparing : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_SectionStates_LessonId_Kind_Number",
                table: "SectionStates");

            migrationBuilder.AddColumn<Guid>(
                name: "BoardId",
                table: "SectionStates",
                type: "TEXT",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"));

            migrationBuilder.AddColumn<string>(
                name: "AlternativeText",
                table: "Boards",
                type: "TEXT",
                maxLength: 2000,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Clip",
                table: "Boards",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "IsOffered",
                table: "Boards",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Links",
                table: "Boards",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Notes",
                table: "Boards",
                type: "TEXT",
                maxLength: 20000,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Original",
                table: "Boards",
                type: "TEXT",
                maxLength: 60,
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Revision",
                table: "Boards",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Scan",
                table: "Boards",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_SectionStates_LessonId_BoardId_Kind_Number",
                table: "SectionStates",
                columns: new[] { "LessonId", "BoardId", "Kind", "Number" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_SectionStates_LessonId_BoardId_Kind_Number",
                table: "SectionStates");

            migrationBuilder.DropColumn(
                name: "BoardId",
                table: "SectionStates");

            migrationBuilder.DropColumn(
                name: "AlternativeText",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "Clip",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "IsOffered",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "Links",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "Notes",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "Original",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "Revision",
                table: "Boards");

            migrationBuilder.DropColumn(
                name: "Scan",
                table: "Boards");

            migrationBuilder.CreateIndex(
                name: "IX_SectionStates_LessonId_Kind_Number",
                table: "SectionStates",
                columns: new[] { "LessonId", "Kind", "Number" },
                unique: true);
        }
    }
}
