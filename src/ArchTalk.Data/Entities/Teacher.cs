using Microsoft.AspNetCore.Identity;

namespace ArchTalk.Data.Entities;

/// <summary>Someone who makes lessons.</summary>
public sealed class Teacher : IdentityUser
{
    /// <summary>The name students see.</summary>
    public string DisplayName { get; set; } = "";
}
