using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace ArchTalk.Data.Migrations
{
    /// <inheritdoc />
    public partial class Revisions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "JobId",
                table: "Publications",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Revision",
                table: "Publications",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "Revision",
                table: "Lessons",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            // Publications of before are of no known revision, so that every lesson can be published anew.
            migrationBuilder.Sql("UPDATE \"Lessons\" SET \"Revision\" = 1;");

            migrationBuilder.CreateIndex(
                name: "IX_Publications_JobId",
                table: "Publications",
                column: "JobId",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Publications_JobId",
                table: "Publications");

            migrationBuilder.DropColumn(
                name: "JobId",
                table: "Publications");

            migrationBuilder.DropColumn(
                name: "Revision",
                table: "Publications");

            migrationBuilder.DropColumn(
                name: "Revision",
                table: "Lessons");
        }
    }
}
